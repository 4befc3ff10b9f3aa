import { existsSync, readFileSync, statSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Script, constants } from 'node:vm';

/** What `npm run build` makes of the command line: one script, and beside it what V8 made of that when it last ran. */
export const BUILT = fileURLToPath(new URL('../dist/pragmatica.cjs', import.meta.url));
export const CODE_CACHE = `${BUILT}.cache`;

/**
 * Runs the command line. Compiling it anew each time takes longer than most commands do, so V8 is handed what it made
 * before; it takes that only if it is of the same version, and does without it otherwise.
 *
 * @returns {Script} the script that runs
 */
export function start() {
  const script = new Script(
    `(function (exports, require, module, __filename, __dirname) {${readFileSync(BUILT, 'utf8')}\n})`,
    {
      filename: BUILT,
      cachedData: codeCache(),
      importModuleDynamically: constants.USE_MAIN_CONTEXT_DEFAULT_LOADER,
    },
  );
  const module = { exports: {} };
  script.runInThisContext()(module.exports, createRequire(BUILT), module, BUILT, dirname(BUILT));
  return script;
}

/** Of this very script: V8 itself would not notice another one of the same length. */
function codeCache() {
  const isOfThis = existsSync(CODE_CACHE) && statSync(CODE_CACHE).mtimeMs >= statSync(BUILT).mtimeMs;
  return isOfThis ? readFileSync(CODE_CACHE) : undefined;
}
