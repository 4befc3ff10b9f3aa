import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { command } from './command.mjs';
import { ROOT, inRoot } from './paths.mjs';
import { step } from './say.mjs';

const MARKER = inRoot('node_modules/.pragmatica-lock');

/** Installs the packages of the lock file when they are missing or belong to another lock file. */
export async function ensurePackages() {
  const wanted = createHash('sha256')
    .update(readFileSync(inRoot('package-lock.json')))
    .digest('hex');
  if (existsSync(MARKER) && readFileSync(MARKER, 'utf8') === wanted) return;
  await step('Installing packages (the first time this takes a minute)', () =>
    command('npm', ['ci', '--no-audit', '--no-fund'], {
      cwd: ROOT,
      failure: 'The packages could not be installed with "npm ci". Is the npm registry reachable?',
    }),
  );
  writeFileSync(MARKER, wanted);
}
