/** How an attribute's value is compared (Selectors Level 4, 6.1 and 6.2). */
export type AttributeTestKind = 'exists' | 'equals' | 'word' | 'hyphen' | 'start' | 'end' | 'any';

export interface AttributeTest {
  readonly name: string;
  readonly kind: AttributeTestKind;
  readonly value: string;
  /** ASCII letters are the same in both cases: always, in pages in quirks mode, or never. */
  readonly folds: 'always' | 'in-quirks' | 'never';
}

/** One element of a selector, and how it stands to the one before it. */
export interface SelectorStep {
  /** It is a child of the element before it, not any descendant. */
  readonly isChild: boolean;
  /** The element's name in lower case; undefined for any. */
  readonly type: string | undefined;
  readonly tests: readonly AttributeTest[];
  /** `:nth-child(…)`, from 1; undefined for any. */
  readonly child: number | undefined;
  /** `:nth-of-type(…)`, from 1, of `type`. */
  readonly ofType: number | undefined;
}

/** A selector from the outermost element to the one that it is about. */
export type Selector = readonly SelectorStep[];
