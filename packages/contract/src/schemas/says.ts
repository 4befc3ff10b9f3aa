import type { TextTree } from '@pragmatica/core';
import { FIELD_TEXTS } from '../texts/field-texts.js';

type NameOf<Texts extends TextTree> = {
  [N in keyof Texts]: Texts[N] extends string ? N : never;
}[keyof Texts];

/** What a schema says of a field that does not fit, in the language of the moment at which it is asked. */
export function says(name: NameOf<typeof FIELD_TEXTS>): { readonly error: () => string } {
  return { error: () => FIELD_TEXTS[name] };
}
