import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseTranslation, setTranslation } from '@pragmatica/core/catalogue';

/** As with the service: what texts are written in, the name of a file in `languages`, or a path. */
const language = process.env['PRAGMATICA_LANGUAGE'] || 'en';
const FOLDER = join(dirname(fileURLToPath(import.meta.url)), '../../../languages');

// Imported before any module that takes a text when it is loaded.
if (language !== 'en') {
  const path = language.endsWith('.json') ? language : join(FOLDER, `${language}.json`);
  try {
    setTranslation(parseTranslation(readFileSync(path, 'utf8')));
  } catch (error) {
    process.stderr.write(
      `pragmatica: PRAGMATICA_LANGUAGE=${language} cannot be used, because of ${path}: ${(error as Error).message}\n`,
    );
    process.exit(2);
  }
}
