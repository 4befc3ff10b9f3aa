import { readFile, writeFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

// Makes what visitors' browsers run around parts that wait (packages/core/src/plan/waiting/in-browser.ts) small.
// `--check` compares with what is committed instead of writing it.

const folder = fileURLToPath(new URL('../packages/core/src/plan/waiting/', import.meta.url));
const target = `${folder}script.ts`;
/** What every browser in use runs. */
const BROWSERS = 'es2019';
/** Properties of the options and of what is shared on a page: they get short names, and WAITING_KEYS says which. */
const SHORTENED =
  /^(?:snippet|visits|minWidth|maxWidth|everyDays|afterSeconds|afterScroll|onLeaving|visit|lately)$/;

async function compile() {
  const { outputFiles, mangleCache } = await build({
    entryPoints: [`${folder}in-browser.ts`],
    bundle: true,
    minify: true,
    write: false,
    format: 'esm',
    target: BROWSERS,
    charset: 'utf8',
    mangleProps: SHORTENED,
    mangleCache: {},
  });
  // The module is one function that is exported; pages get the function alone.
  const module = /^var (\w+)=([^]*);export\{\1 as waitForVisitor\};$/.exec(outputFiles[0].text.trim());
  if (!module) throw new Error('in-browser.ts comes to more than one function.');
  return `/** What visitors' browsers run, made by scripts/build-waiting.mjs from in-browser.ts: do not edit. */
export const WAITING_SCRIPT =
  ${JSON.stringify(`(${module[2]})`)};

/** What the options are called in it. */
export const WAITING_KEYS = ${JSON.stringify(mangleCache)} as const;
`;
}

const text = await compile();
if (!process.argv.includes('--check')) await writeFile(target, text);
else if (text !== (await readFile(target, 'utf8'))) {
  console.error('waiting/script.ts is not what in-browser.ts comes to: run "npm run build:waiting".');
  process.exitCode = 1;
}
