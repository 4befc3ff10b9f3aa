import { deferredText } from './deferred-form.js';

/** Texts by name, nested as their catalogues are. */
export interface TextTree {
  readonly [name: string]: TextEntry;
}

export type TextEntry = string | readonly TextEntry[] | TextTree;

/** All texts of the product in one language; what is missing is said in English. */
export interface Translation {
  /** BCP 47. */
  readonly tag: string;
  /** By catalogue: `console.strip`, `checks`. */
  readonly texts: TextTree;
}

/** How texts are said: in a language, or deferred, for readers of any (`sayDeferred`). */
export type Speech = Translation | 'deferred';

/** The language that the texts are written in. */
export const WRITTEN: Translation = { tag: 'en', texts: {} };

const catalogues = new Map<string, TextTree>();
let standing: Translation = WRITTEN;
let atTheMoment: () => Speech | undefined = () => undefined;

/**
 * Says everything in another language from now on; without one, as it is written. A process calls it before it loads
 * anything else (by the export `@pragmatica/core/catalogue`): some texts are taken when their module is loaded.
 */
export function setTranslation(language: Translation | undefined): void {
  standing = language ?? WRITTEN;
}

/**
 * Has a process speak several languages, one at a time.
 *
 * @param get - asked with every text: how it is said just now; undefined for the language of the process
 * @returns puts back what was asked before
 */
export function speakByMoment(get: () => Speech | undefined): () => void {
  const before = atTheMoment;
  atTheMoment = get;
  return () => (atTheMoment = before);
}

/** The language of the process: that of whatever nobody reads at the moment. */
export function standingLanguage(): Translation {
  return standing;
}

/** How texts are said at the moment. */
export function currentSpeech(): Speech {
  return atTheMoment() ?? standing;
}

/** A name for it: the key of what is cached in words. */
export function speechKey(): string {
  const speech = currentSpeech();
  return speech === 'deferred' ? speech : speech.tag;
}

function currentLanguage(): Translation {
  const speech = currentSpeech();
  return speech === 'deferred' ? standing : speech;
}

/** The tag of the language that texts are said in. */
export function languageTag(): string {
  return currentLanguage().tag;
}

/** A region's numbers and dates in the language that texts are said in. */
export function localeInLanguage(locale: string): string {
  const { tag } = currentLanguage();
  if (tag === WRITTEN.tag) return locale;
  const { region } = new Intl.Locale(locale);
  return new Intl.Locale(tag, region === undefined ? {} : { region }).toString();
}

/** A text as the language of the moment has it. @param path - catalogue and names down to the text */
function translated(path: readonly string[], original: string): string {
  const speech = currentSpeech();
  if (speech === 'deferred') return deferredText(path);
  const found = entryAt(speech.texts, path);
  return typeof found === 'string' ? found : original;
}

function entryAt(texts: TextTree, path: readonly string[]): TextEntry | undefined {
  let found: TextEntry | undefined = texts;
  for (const name of path) {
    if (typeof found !== 'object' || !Object.hasOwn(found, name)) return undefined;
    found = (found as TextTree)[name];
  }
  return found;
}

/** Texts under a name, each said in the language of the moment at which it is asked for. */
export function catalogue<const Texts extends TextTree>(name: string, texts: Texts): Texts {
  catalogues.set(name, texts);
  return spoken([name], texts);
}

/** The text at a path in the language of the moment; undefined where there is none. */
export function textAt(path: readonly string[]): string | undefined {
  const [name = '', ...inside] = path;
  const texts = catalogues.get(name);
  const original = texts && entryAt(texts, inside);
  return typeof original === 'string' ? translated(path, original) : undefined;
}

/**
 * The file of a language: JSON with its `tag` and its `texts`.
 *
 * @throws Error that says what is wrong with it
 */
export function parseTranslation(json: string): Translation {
  const { tag, texts } = JSON.parse(json) as Partial<Record<keyof Translation, unknown>>;
  if (typeof tag !== 'string' || typeof texts !== 'object' || texts === null)
    throw new Error('A language is a JSON object with “tag” and “texts”.');
  return { tag: new Intl.Locale(tag).toString(), texts: texts as TextTree };
}

/** Every text that is in a catalogue of the modules loaded so far, as it is written. */
export function writtenTexts(): TextTree {
  return Object.fromEntries([...catalogues].sort(([a], [b]) => (a < b ? -1 : 1)));
}

function spoken<Texts extends Exclude<TextEntry, string>>(path: readonly string[], texts: Texts): Texts {
  const result: object = Array.isArray(texts) ? [] : {};
  for (const [name, text] of Object.entries<TextEntry>(texts as TextTree)) {
    const own = [...path, name];
    const get = typeof text === 'string' ? () => translated(own, text) : fixed(spoken(own, text));
    Object.defineProperty(result, name, { enumerable: true, get });
  }
  return result as Texts;
}

function fixed<Value>(value: Value): () => Value {
  return () => value;
}
