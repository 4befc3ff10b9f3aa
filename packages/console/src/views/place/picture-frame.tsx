import type { ReactNode } from 'react';
import { PLACE } from '../../texts/place';
import { say } from '../../texts/say';
import { Failure, Loading } from '../../ui/states';
import type { PagePicture, Picturing } from './use-picture';

interface PictureFrameProps {
  readonly path: string;
  readonly picturing: Picturing;
  readonly children: (picture: PagePicture) => ReactNode;
}

/** What is shown until a picture has come, or where none comes. */
export function PictureFrame({ path, picturing, children }: PictureFrameProps) {
  if (picturing.state === 'there') return children(picturing.picture);
  return (
    <div className="p-4">
      {picturing.state === 'failed' ? (
        <Failure error={new Error(picturing.message)} />
      ) : (
        <>
          <p className="text-sm text-muted">{say(PLACE.loading, { path })}</p>
          <Loading lines={5} label={say(PLACE.loading, { path })} />
        </>
      )}
    </div>
  );
}
