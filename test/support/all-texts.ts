import { readdirSync } from 'node:fs';
import { createRequire } from 'node:module';
import { resolve } from 'node:path';
import { writtenTexts, type TextTree } from '@pragmatica/core';
import '@pragmatica/gateway';
import '@pragmatica/server';
import '../../packages/cli/dist/program.js';

const CONSOLE_TEXTS = 'packages/console/src/texts';
/** They say texts, and hold none. */
const NO_CATALOGUES = new Set(['say.ts', 'rich.tsx']);

/** Every text of core, service, command line and console, as it is written. */
export function allTexts(): TextTree {
  // As the modules of the tests are loaded: the catalogues have to come to the same core.
  const load = createRequire(resolve('test/support/all-texts.ts'));
  for (const file of readdirSync(CONSOLE_TEXTS))
    if (!NO_CATALOGUES.has(file)) load(resolve(CONSOLE_TEXTS, file));
  // Another suite of this process may have catalogues of its own.
  return Object.fromEntries(Object.entries(writtenTexts()).filter(([name]) => !name.startsWith('test.')));
}

/** A tree with each of its texts replaced. */
export function mapTexts(tree: TextTree, change: (text: string) => string): TextTree {
  const entry = (value: TextTree[string]): TextTree[string] =>
    typeof value === 'string'
      ? change(value)
      : Array.isArray(value)
        ? value.map(entry)
        : mapTexts(value as TextTree, change);
  return Object.fromEntries(Object.entries(tree).map(([name, value]) => [name, entry(value)]));
}
