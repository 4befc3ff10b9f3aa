import {
  composePage,
  decodePage,
  describeSighting,
  readPage,
  type AttributedItem,
  type Carrier,
  type Composition,
  type PageReading,
  type PageSource,
  type PlannedPart,
} from '@pragmatica/core';
import type { DeferredText, NewSighting } from '../storage/survey-contents.js';
import type { Bench } from './bench.js';

export interface SurveyedPage {
  readonly reading: Omit<PageReading, 'items' | 'found'> & { readonly starts: readonly number[] };
  readonly composition: Composition;
  readonly sightings: readonly NewSighting[];
  readonly codes: readonly DeferredText[];
}

/** Of what stands around a sighting so much is kept. */
const EXCERPT_LENGTH = 200;
const MAX_CODE_LENGTH = 64 * 1024;

/**
 * Reads a page, with whose its items are. Codes are handed out once, as most pages of a site have the same.
 *
 * @param edition - another one where all that was handed out may have been lost
 */
export function readSurveyedPage(
  source: PageSource,
  { parts, carrier }: { readonly parts: readonly PlannedPart[]; readonly carrier?: Carrier | undefined },
  edition: string,
  { passing: memory, watch, handedOut }: Bench,
): SurveyedPage {
  const { text } = decodePage(source.bytes, source.headers['content-type']);
  // From here on the time counts; each code in the page is watched by itself.
  watch.begin(text);
  watch.end();
  const { items, found, ...reading } = readPage(source, memory, parts, carrier);
  const fresh = items.filter(({ form, part }) =>
    handedOut.add(`${edition} ${form} ${part === undefined ? '' : 'ours'}`),
  );
  return {
    reading: { ...reading, starts: items.map(({ range }) => range.start) },
    composition: composePage(items, found),
    sightings: firstOfEach(fresh).map((item) => toSighting(item, text, source.url, memory)),
    codes: fresh.map(({ form, code }) => ({ digest: form, body: cut(code) })),
  };
}

function firstOfEach(items: readonly AttributedItem[]): AttributedItem[] {
  // Where it is not ours it is shown.
  const inOrder = [...items].sort((a, b) => Number(a.part === undefined) - Number(b.part === undefined));
  return [...new Map(inOrder.map((item) => [item.key, item])).values()];
}

function toSighting(item: AttributedItem, text: string, url: string, memory: Bench['memory']): NewSighting {
  const { start, end } = item.range;
  const { pathname, search } = new URL(url);
  return {
    ...describeSighting(item, memory),
    form: item.form,
    path: pathname + search,
    before: text.slice(Math.max(0, start - EXCERPT_LENGTH), start),
    after: text.slice(end, end + EXCERPT_LENGTH),
    isOurs: item.part !== undefined,
  };
}

function cut(code: string): string {
  return code.length > MAX_CODE_LENGTH ? code.slice(0, MAX_CODE_LENGTH) : code;
}
