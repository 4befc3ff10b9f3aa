import type {
  ElementNamesInput,
  ElementNamesResource,
  PagePictureEvent,
  PagePictureInput,
  PlaceCheckInput,
  PlaceCheckResource,
} from '@pragmatica/contract';
import { api } from './client';

/** A picture of a page, once a browser has been there. */
export function askPicture(
  site: string,
  body: PagePictureInput,
  signal: AbortSignal,
): AsyncIterable<PagePictureEvent> {
  return api.stream('pagePicture', { params: { site }, body }, signal);
}

/** Selectors for an element of a picture. */
export async function nameElement(
  site: string,
  picture: number,
  body: ElementNamesInput,
): Promise<ElementNamesResource> {
  return (await api.call('nameElement', { params: { site, picture }, body })).data;
}

/** On which pages code has a place. */
export async function checkPlace(site: string, body: PlaceCheckInput): Promise<PlaceCheckResource> {
  return (await api.call('checkPlace', { params: { site }, body })).data;
}
