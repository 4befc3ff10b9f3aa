import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { parseTranslation, setTranslation } from '@pragmatica/core/catalogue';

/** The language that the texts are written in, which needs no file. */
const WRITTEN_IN = 'en';

/** Whether `PRAGMATICA_LANGUAGE` names a language: then it is nobody’s browser that decides. */
export function isLanguageSet(): boolean {
  return Boolean(process.env['PRAGMATICA_LANGUAGE']);
}

/**
 * Says everything in the language that `PRAGMATICA_LANGUAGE` sets: the name of a file in `languages`, or a path. Called
 * by the first import of each process and each thread, as some texts are taken when their module is loaded.
 *
 * @param languages - the folder
 * @param otherwise - where the variable is not set; not used where there is no such language
 * @throws Error that says which file cannot be used, and why
 */
export function speakAsSet(languages: URL, otherwise: string = WRITTEN_IN): void {
  const language = process.env['PRAGMATICA_LANGUAGE'] || otherwise;
  if (language === WRITTEN_IN) return;
  const path = language.endsWith('.json') ? language : fileURLToPath(new URL(`${language}.json`, languages));
  try {
    setTranslation(parseTranslation(readFileSync(path, 'utf8')));
  } catch (error) {
    if (!isLanguageSet()) return;
    throw new Error(
      `PRAGMATICA_LANGUAGE=${language} cannot be used, because of ${path}: ${(error as Error).message}`,
      { cause: error },
    );
  }
}
