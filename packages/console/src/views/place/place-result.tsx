import { placementWords, type AnchorPlacement } from '@pragmatica/core';
import { PLACE } from '../../texts/place';
import { say } from '../../texts/say';
import { PictureFrame } from './picture-frame';
import { PlacePicture } from './place-picture';
import type { ShownPage } from './shown-page';
import { usePicture } from './use-picture';

interface PlaceResultProps {
  readonly site: string;
  readonly shown: ShownPage;
  readonly code: string;
  readonly placement: AnchorPlacement;
}

/** The page with the code at the place, before anything is saved. */
export function PlaceResult({ site, shown, code, placement }: PlaceResultProps) {
  const picturing = usePicture(site, { ...shown, part: { code, placement } });
  return (
    <PictureFrame path={shown.path} picturing={picturing}>
      {(picture) => (
        <>
          <p className="border-b border-line px-3 py-2 text-[13px] text-muted">
            {say(PLACE.resultOf, { place: placementWords(placement) })}.{' '}
            {picture.elements.length > 0 ? PLACE.resultShows : PLACE.resultNothing}
          </p>
          <PlacePicture site={site} path={shown.path} picture={picture} chosen={picture.elements} />
        </>
      )}
    </PictureFrame>
  );
}
