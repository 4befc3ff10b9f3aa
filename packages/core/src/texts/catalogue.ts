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

/** The language that the texts are written in. */
const WRITTEN_IN = 'en';

const catalogues = new Map<string, TextTree>();
let active: Translation | undefined;

/**
 * Says everything in another language from now on; without one, as it is written. A process calls it before it loads
 * anything else (by the export `@pragmatica/core/catalogue`): some texts are taken when their module is loaded.
 */
export function setTranslation(language: Translation | undefined): void {
  active = language;
}

/** The language that texts are said in; undefined for the one that they are written in. */
export function activeTranslation(): Translation | undefined {
  return active;
}

/** The tag of the language that texts are said in. */
export function languageTag(): string {
  return active?.tag ?? WRITTEN_IN;
}

/** A region's numbers and dates in the language that texts are said in. */
export function localeInLanguage(locale: string): string {
  if (active === undefined) return locale;
  const { region } = new Intl.Locale(locale);
  return new Intl.Locale(active.tag, region === undefined ? {} : { region }).toString();
}

/** A text as the language has it. @param path - catalogue and names down to the text */
function translated(path: readonly string[], original: string): string {
  let found: unknown = active?.texts;
  for (const name of path) {
    if (typeof found !== 'object' || found === null || !Object.hasOwn(found, name)) return original;
    found = (found as Readonly<Record<string, unknown>>)[name];
  }
  return typeof found === 'string' ? found : original;
}

/** Texts under a name, each said in the language of the moment at which it is asked for. */
export function catalogue<const Texts extends TextTree>(name: string, texts: Texts): Texts {
  catalogues.set(name, texts);
  return spoken([name], texts);
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
