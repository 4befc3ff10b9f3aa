import type { PagePictureEvent, PagePictureInput } from '@pragmatica/contract';
import { useEffect, useState } from 'react';
import { askPicture } from '../../api/place';
import { VISITS } from '../../texts/visits';

export type PagePicture = Extract<PagePictureEvent, { type: 'picture' }>;

export type Picturing =
  | { readonly state: 'loading' }
  | { readonly state: 'there'; readonly picture: PagePicture }
  | { readonly state: 'failed'; readonly message: string };

/** Asks for a picture, anew with each other wish. Leaving calls the visit off. */
export function usePicture(site: string, wish: PagePictureInput): Picturing {
  const asked = JSON.stringify(wish);
  const [answer, setAnswer] = useState<{ readonly asked: string; readonly picturing: Picturing }>();
  useEffect(() => {
    const controller = new AbortController();
    const settle = (picturing: Picturing): void => {
      if (!controller.signal.aborted) setAnswer({ asked, picturing });
    };
    const ask = async (): Promise<void> => {
      let last: PagePictureEvent | undefined;
      for await (const event of askPicture(site, JSON.parse(asked) as PagePictureInput, controller.signal))
        last = event;
      if (last?.type === 'picture') settle({ state: 'there', picture: last });
      else settle({ state: 'failed', message: last?.type === 'failed' ? last.message : VISITS.brokenOff });
    };
    ask().catch((error: unknown) => {
      settle({ state: 'failed', message: error instanceof Error ? error.message : String(error) });
    });
    return () => controller.abort();
  }, [site, asked]);
  return answer?.asked === asked ? answer.picturing : { state: 'loading' };
}
