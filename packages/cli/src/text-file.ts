import { readFileSync } from 'node:fs';
import { CliError, EXIT } from './errors.js';
import { COMMON } from './texts/common.js';
import { say } from './texts/say.js';

/** @throws CliError where it cannot be read */
export function readTextFile(file: string): string {
  try {
    return readFileSync(file, 'utf8');
  } catch (error) {
    const code = String((error as NodeJS.ErrnoException).code);
    const line =
      code === 'ENOENT'
        ? say(COMMON.thereNoFile, { source: file })
        : say(COMMON.fileSourceCould, { source: file, code });
    throw new CliError(line, EXIT.usage);
  }
}
