import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseTranslation, setTranslation, type Translation } from '@pragmatica/core/catalogue';
import { SettingsError } from '@pragmatica/runtime';

/** The language that the texts are written in, which needs no file. */
const WRITTEN_IN = 'en';

const FOLDER = join(dirname(fileURLToPath(import.meta.url)), '../../../languages');

/**
 * Says everything in the language that is set. Called before anything else is loaded.
 *
 * @param language - `en`, the name of a file in `languages`, or a path
 * @throws SettingsError where there is no such file, or something else in it
 */
export function speak(language: string): void {
  if (language !== WRITTEN_IN) setTranslation(readTranslation(language));
}

function readTranslation(language: string): Translation {
  const path = language.endsWith('.json') ? language : join(FOLDER, `${language}.json`);
  try {
    return parseTranslation(readFileSync(path, 'utf8'));
  } catch (error) {
    throw new SettingsError(
      `PRAGMATICA_LANGUAGE=${language} cannot be used, because of ${path}: ${(error as Error).message}`,
    );
  }
}
