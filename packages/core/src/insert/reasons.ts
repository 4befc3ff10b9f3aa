import { INSERT_TEXTS } from '../texts/insert.js';
import { lazyTexts } from '../texts/lazy-texts.js';
/** Why a part could not be put into a page. Codes are stable; the words may change. */
const REASONS = lazyTexts({
  frameset: () => INSERT_TEXTS.pageFramesetHas,
  'no-anchor': () => INSERT_TEXTS.pageHasNo,
  'anchor-refused': () => INSERT_TEXTS.elementIdCannot,
  unfinished: () => INSERT_TEXTS.pageBreaksOff,
  'inside-template': () => INSERT_TEXTS.placePageHas,
  'inside-foreign': () => INSERT_TEXTS.placePageHasDrawing,
  encoding: () => INSERT_TEXTS.pageSCharacter,
  charset: () => INSERT_TEXTS.pageDeclaresCharacter,
  undecided: () => INSERT_TEXTS.pageDoesNot,
  'too-complex': () => INSERT_TEXTS.pageTooLong,
});

export type LeftOutReason = keyof typeof REASONS;

/** The reason in a sentence for somebody who does not program. */
export function reasonWords(reason: LeftOutReason): string {
  return REASONS[reason];
}

/** What is to be said of a part that went in, but not where it normally goes. */
const NOTES = {
  get 'after-charset'() {
    return INSERT_TEXTS.standsRightAfter;
  },
} as const;

export type InsertNote = keyof typeof NOTES;

/** The note in a sentence for somebody who does not program. */
export function noteWords(note: InsertNote): string {
  return NOTES[note];
}
