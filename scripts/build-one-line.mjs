import { readFile, writeFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

// Makes what the one line runs in visitors' browsers (packages/core/src/deliver/one-line/browser) small.
// `--check` compares with what is committed instead of writing it.

const folder = fileURLToPath(new URL('../packages/core/src/deliver/one-line/', import.meta.url));
const target = `${folder}scripts.ts`;
/** What every browser in use runs. */
const BROWSERS = 'es2022';

/** A function as an expression that can be called. */
async function compile(file, name) {
  const { outputFiles } = await build({
    stdin: {
      contents: `import { ${name} } from './browser/${file}.js'; window.pgmEntry(${name});`,
      resolveDir: folder,
    },
    bundle: true,
    minify: true,
    write: false,
    format: 'iife',
    target: BROWSERS,
    charset: 'utf8',
  });
  // The function is handed to what stands behind instead of a name.
  const text = outputFiles[0].text.trim().replace(/;$/, '');
  const marked = 'window.pgmEntry(';
  if (text.split(marked).length !== 2) throw new Error(`${file}.ts comes to something unexpected.`);
  return text.replace(marked, 'return(').replace(/\(\)$/, '');
}

const pointer = await compile('pointer', 'loadRelease');
const release = await compile('release', 'runRelease');
const placeAt = await compile('place-at', 'placeAt');
const guard = await compile('guard', 'writeHeld');
const text = `/** What the one line runs in visitors' browsers, made by scripts/build-one-line.mjs: do not edit. */
export const POINTER_SCRIPT =
  ${JSON.stringify(pointer)};

export const RELEASE_SCRIPT =
  ${JSON.stringify(release)};

export const PLACE_SCRIPT =
  ${JSON.stringify(placeAt)};

export const GUARD_SCRIPT =
  ${JSON.stringify(guard)};
`;
if (!process.argv.includes('--check')) await writeFile(target, text);
else if (text !== (await readFile(target, 'utf8'))) {
  console.error('one-line/scripts.ts is not what its sources come to: run "npm run build:one-line".');
  process.exitCode = 1;
}
