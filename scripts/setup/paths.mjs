import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The project's folder. */
export const ROOT = resolve(dirname(fileURLToPath(import.meta.url)), '../..');

export const inRoot = (...parts) => join(ROOT, ...parts);

/** A program that one of the packages brings along. */
export function programOf(name) {
  return inRoot('node_modules/.bin', name);
}
