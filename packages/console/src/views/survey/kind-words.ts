import type { ItemKind } from '@pragmatica/core';
import { SURVEY } from '../../texts/survey';

/** What a thing in a page is. */
export function kindWords(kind: string): string {
  return SURVEY.itemKinds[kind as ItemKind];
}
