import { languageTag } from '@pragmatica/core';
import type { HandlersOf } from '../http/context.js';
import { languages, nameOfLanguage } from '../language/languages.js';

export function languageHandlers(): HandlersOf<'listLanguages'> {
  return {
    listLanguages() {
      const spoken = languageTag();
      const items = languages().map(({ tag }) => ({
        ...{ tag, name: nameOfLanguage(tag) },
        isSpoken: tag === spoken,
      }));
      return Promise.resolve({ data: { items } });
    },
  };
}
