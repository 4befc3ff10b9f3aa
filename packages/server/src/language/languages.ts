import { readFileSync, readdirSync } from 'node:fs';
import { WRITTEN, parseTranslation, standingLanguage, type Translation } from '@pragmatica/core';

/** The texts as they are written: what a new language is translated from, and no language of its own. */
const TEMPLATE = 'en.json';

let known: readonly Translation[] | undefined;

/**
 * The languages that the service speaks: English, what is in the folder `languages`, and that of the installation. A
 * file that cannot be read is left out, and said so.
 */
export function languages(): readonly Translation[] {
  known ??= byTag([
    WRITTEN,
    ...fromFolder(new URL('../../../../languages/', import.meta.url)),
    standingLanguage(),
  ]);
  return known;
}

/** @returns undefined for one that the service does not speak */
export function languageByTag(tag: string): Translation | undefined {
  return languages().find((language) => language.tag.toLowerCase() === tag.toLowerCase());
}

/** What a language is called by those who speak it: “Deutsch”. */
export function nameOfLanguage(tag: string): string {
  const name = new Intl.DisplayNames([tag], { type: 'language', fallback: 'code' }).of(tag) ?? tag;
  return name.charAt(0).toLocaleUpperCase(tag) + name.slice(1);
}

function fromFolder(folder: URL): Translation[] {
  const files = readdirSync(folder).filter((file) => file.endsWith('.json') && file !== TEMPLATE);
  return files.flatMap((file) => {
    try {
      return [parseTranslation(readFileSync(new URL(file, folder), 'utf8'))];
    } catch (error) {
      process.emitWarning(`languages/${file} cannot be used: ${(error as Error).message}`);
      return [];
    }
  });
}

/** Of several with one tag the last counts. */
function byTag(all: readonly Translation[]): Translation[] {
  return [...new Map(all.map((language) => [language.tag, language])).values()];
}
