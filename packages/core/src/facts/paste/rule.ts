/** Offsets in UTF-16 code units, the end not included. */
interface Range {
  readonly start: number;
  readonly end: number;
}

/** One way in which code goes wrong on its way from a provider's page into a box. */
export interface PasteRule {
  readonly kind: PasteMistakeKind;
  /** Where it shows; undefined where the code does not have it. Linear in the code's length. */
  find(code: string): Range | undefined;
  /** The code with just this put right. */
  repair(code: string): string;
}

export type PasteMistakeKind =
  | 'fence'
  | 'quoted'
  | 'numbered'
  | 'invisible'
  | 'whole-page'
  | 'escaped-in-script'
  | 'doubled-tags'
  | 'end-tag-in-string';

/** A mistake that was made in pasting, and the code without it. */
export interface PasteMistake {
  readonly kind: PasteMistakeKind;
  readonly range: Range;
  readonly confidence: 'certain';
  /** Undefined where another mistake has to be put right first. */
  readonly repaired: string | undefined;
}
