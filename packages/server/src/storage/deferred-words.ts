import { hasDeferred, sayAllDeferred, sayDeferred } from '@pragmatica/core';
import { languages } from '../language/languages.js';
import { speakAsInstalled, speakIn } from '../language/speech.js';

/** How words are stored. */
export interface StoredWords<Data> {
  /** In the language of the installation. */
  readonly words: Data;
  /** The same as it is said to readers of any language; null where it holds nothing that is said in one. */
  readonly said: Data | null;
}

/** @param data - with deferred messages in it */
export function toStored<Data>(data: Data): StoredWords<Data> {
  if (!hasDeferred(JSON.stringify(data))) return { words: data, said: null };
  return { words: speakAsInstalled(() => sayAllDeferred(data)), said: data };
}

/** What was stored, in the language of the moment. What another version deferred and this one cannot say is as it was said then. */
export function fromStored<Data>(words: Data, said: Data | null): Data {
  if (said === null) return words;
  try {
    return sayAllDeferred(said);
  } catch {
    return words;
  }
}

/**
 * A sentence of the trail in the language of the moment. The chain holds its words: what is kept beside them counts for nothing
 * unless it says just that in some language.
 */
export function fromTrail(words: string, said: string | null): string {
  if (said === null) return words;
  try {
    const isTrue = languages().some((language) => speakIn(language, () => sayDeferred(said)) === words);
    return isTrue ? sayDeferred(said) : words;
  } catch {
    return words;
  }
}
