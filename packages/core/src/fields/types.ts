export const FIELD_TYPES = ['text', 'id', 'number', 'flag', 'colour', 'url', 'phone'] as const;
export type FieldType = (typeof FIELD_TYPES)[number];

/** A named value in code, written `@{name}` there, with what it is at a site. */
export interface Field {
  readonly name: string;
  readonly type: FieldType;
  /** What people call it. */
  readonly label: string;
  /** The provider's own example; a field that still has it is not set yet. */
  readonly example?: string;
  /** The value everywhere; an environment's own goes before it. */
  readonly value?: string;
  readonly live?: string;
  readonly staging?: string;
}

/** Where a field stands in code, and so how its value is written there. */
export type FieldPlace =
  | { readonly kind: 'text' }
  /** In an attribute with quotes. */
  | { readonly kind: 'attribute' }
  /** In an attribute without quotes, or in a style: only what needs no escaping. */
  | { readonly kind: 'bare' }
  /** Within an address, behind its beginning. */
  | { readonly kind: 'url-part'; readonly within: 'attribute' | 'script' | 'json' }
  /** An address from its beginning on. */
  | { readonly kind: 'url-start'; readonly within: 'attribute' | 'script' | 'json' }
  /** Within quotes in a script; `isAttribute` where that is in an attribute. */
  | { readonly kind: 'script-string'; readonly isAttribute: boolean }
  /** A whole value in a script. */
  | { readonly kind: 'script-value'; readonly isAttribute: boolean }
  | { readonly kind: 'json-string' }
  | { readonly kind: 'json-value' }
  /** Nothing can safely stand there; `why` in words. */
  | { readonly kind: 'refused'; readonly why: string };

/** A field in code. */
export interface FieldUse {
  readonly name: string;
  /** Offsets of `@{name}` in UTF-16 code units. */
  readonly start: number;
  readonly end: number;
  readonly place: FieldPlace;
}

export const FIELD_NAME = /^[a-z][a-z0-9_-]{0,39}$/;
