import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { nodeResolve } from '@rollup/plugin-node-resolve';
import { exampleKnowledge, exampleSet, runChecks, type Finding } from '@pragmatica/core';
import { rollup, type Plugin } from '@rollup/wasm-node';
import { build, type Format } from 'esbuild';
import { rolldown } from 'rolldown';
import webpack from 'webpack';
import { CAUSE_KINDS, findingsOfSite } from '../test/corpus/causes/index.js';
import { CORPUS } from '../test/corpus/corpus.js';
import { GOOD_SETS, SITE } from '../test/corpus/sets.js';
import { TROUBLES } from '../test/corpus/troubles.js';

/**
 * How often the checks are wrong about code in which nothing is wrong: false errors and warnings per 1,000 snippets, over
 * the corpus, sites that are near to a mistake, and bundles of the packages that are installed here.
 */

const ROOT = new URL('..', import.meta.url).pathname;
const MIN_BYTES = 10_000;
const MAX_BYTES = 200_000;
/** Packages that are bundled, in the order of their names. */
const MOST = Number(process.argv[2] ?? 120);

interface Source {
  readonly name: string;
  readonly snippets: number;
  readonly found: readonly { readonly in: string; readonly finding: Finding }[];
}

function packages(): string[] {
  const modules = join(ROOT, 'node_modules');
  return readdirSync(modules)
    .filter((name) => !/^[.@]/.test(name))
    .filter((name) => {
      try {
        const { main, module, exports } = JSON.parse(
          readFileSync(join(modules, name, 'package.json'), 'utf8'),
        ) as { main?: string; module?: string; exports?: unknown };
        return main !== undefined || module !== undefined || exports !== undefined;
      } catch {
        return false;
      }
    });
}

/** A package as a browser's pages load one; undefined where it cannot be made for them, or is too small or too large. */
async function bundle(name: string, at: number): Promise<string | undefined> {
  const globalName = name.replace(
    /[^a-z0-9]+(.)?/gi,
    (_, letter: string | undefined) => letter?.toUpperCase() ?? '',
  );
  try {
    const code = await BUNDLERS[at % BUNDLERS.length]!(name, globalName);
    return code.length >= MIN_BYTES && code.length <= MAX_BYTES && !/<\/script/i.test(code)
      ? code
      : undefined;
  } catch {
    return undefined;
  }
}

const require = createRequire(join(ROOT, 'package.json'));
/** Its types are those of another kind of module. */
const commonjs = require('@rollup/plugin-commonjs') as () => Plugin;

/** Each writes bundles of its own look; all come minified and as they are written, where they can do both. */
const BUNDLERS: readonly ((name: string, globalName: string) => Promise<string>)[] = [
  (name, globalName) => byEsbuild(name, globalName, true),
  byRolldown,
  byRollup,
  (name, globalName) => byWebpack(name, globalName, 'production'),
  (name, globalName) => byEsbuild(name, globalName, false),
  (name, globalName) => byWebpack(name, globalName, 'development'),
];

/** A file that hands on all that a package has. */
const ENTRIES = mkdtempSync(join(tmpdir(), 'bundles-'));
function entryOf(name: string): string {
  const file = join(ENTRIES, `${name}.js`);
  writeFileSync(file, `export * from ${JSON.stringify(require.resolve(name))};`);
  return file;
}

async function byRollup(name: string, globalName: string): Promise<string> {
  const plugins = [nodeResolve({ browser: true }), commonjs()];
  const made = await rollup({ input: entryOf(name), plugins, logLevel: 'silent' });
  const { output } = await made.generate({ format: 'iife', name: globalName });
  return output[0].code;
}

async function byWebpack(
  name: string,
  globalName: string,
  mode: 'production' | 'development',
): Promise<string> {
  const file = `${name}.bundle.js`;
  const compiler = webpack({
    ...{ mode, entry: entryOf(name), devtool: mode === 'production' ? false : 'eval', target: 'web' },
    output: { path: ENTRIES, filename: file, library: { name: globalName, type: 'var' } },
    performance: { hints: false },
  });
  return new Promise((resolve, reject) => {
    compiler.run((error, stats) => {
      if (error || !stats || stats.hasErrors()) reject(error ?? new Error('not bundled'));
      else resolve(readFileSync(join(ENTRIES, file), 'utf8'));
    });
  });
}

async function byEsbuild(name: string, globalName: string, minify: boolean): Promise<string> {
  const format: Format = 'iife';
  const { outputFiles } = await build({
    stdin: { contents: `export * from ${JSON.stringify(name)};`, resolveDir: ROOT },
    ...{ bundle: true, write: false, platform: 'browser', logLevel: 'silent', globalName, format, minify },
    define: { 'process.env.NODE_ENV': '"production"' },
  });
  return outputFiles[0]!.text;
}

async function byRolldown(name: string, globalName: string): Promise<string> {
  const input = require.resolve(name);
  const made = await rolldown({ input, platform: 'browser', logLevel: 'silent' });
  const { output } = await made.generate({ format: 'iife', name: globalName, minify: true });
  return output[0].code;
}

const isFalse = ({ severity }: Finding): boolean => severity !== 'advice';

/** How often each check has spoken on clean snippets, advice as well. */
const fired = new Map<string, number>();

function counted(found: readonly Finding[]): readonly Finding[] {
  for (const { check } of found) fired.set(check, (fired.get(check) ?? 0) + 1);
  return found;
}

async function ofBundles(): Promise<Source> {
  const found: { in: string; finding: Finding }[] = [];
  let snippets = 0;
  for (const [at, name] of packages().entries()) {
    if (snippets >= MOST) break;
    const code = await bundle(name, at);
    if (code === undefined) continue;
    snippets++;
    const set = exampleSet([
      { name: 'Bundle', parts: [{ placement: 'body-end', code: `<script>\n${code}\n</script>` }] },
    ]);
    for (const finding of counted(runChecks(set, exampleKnowledge({}))))
      if (isFalse(finding)) found.push({ in: name, finding });
  }
  return { name: 'bundles of installed packages', snippets, found };
}

function ofCorpus(): Source {
  const bad = new Set(TROUBLES.map(({ name }) => name));
  const good = CORPUS.filter(
    ({ name }) => !bad.has(name) && name !== 'container for browsers without scripts',
  );
  const found = good.flatMap(({ name, code, placement }) =>
    counted(runChecks(exampleSet([{ name: 'One', parts: [{ placement, code }] }])))
      .filter(isFalse)
      .map((finding) => ({ in: name, finding })),
  );
  return { name: 'corpus', snippets: good.length, found };
}

function ofSites(): Source {
  const clean = CAUSE_KINDS.flatMap(({ kind, clean: sites }) =>
    sites.map((site) => ({
      name: `${kind}: ${site.name}`,
      snippets: site.snippets.length,
      found: counted(findingsOfSite(site)),
    })),
  );
  const good = Object.entries(GOOD_SETS).map(([name, snippets]) => ({
    name,
    snippets: snippets.length,
    found: counted(runChecks(exampleSet(snippets), SITE)),
  }));
  const all = [...clean, ...good];
  return {
    name: `${all.length} clean sites`,
    snippets: all.reduce((sum, { snippets }) => sum + snippets, 0),
    found: all.flatMap(({ name, found }) => found.filter(isFalse).map((finding) => ({ in: name, finding }))),
  };
}

const sources = [ofCorpus(), ofSites(), await ofBundles()];
rmSync(ENTRIES, { recursive: true });
const per = (number: number, of: number): string => ((number / Math.max(of, 1)) * 1_000).toFixed(1);
console.log('| where nothing is wrong | snippets | false errors per 1,000 | false warnings per 1,000 |');
console.log('| --- | ---: | ---: | ---: |');
for (const { name, snippets, found } of sources) {
  const errors = found.filter(({ finding }) => finding.severity === 'error').length;
  console.log(
    `| ${name} | ${snippets} | ${per(errors, snippets)} | ${per(found.length - errors, snippets)} |`,
  );
}
const all = sources.flatMap(({ found }) => found);
if (all.length > 0) console.log('\nWhat was said wrongly:');
for (const { in: where, finding } of all)
  console.log(`  ${finding.check} (${finding.severity}) in ${where}: ${finding.title}`);
console.log('\nHow often each check has spoken where nothing is wrong (advice as well):');
const most = [...fired].sort((a, b) => b[1] - a[1]);
console.log(`  ${most.map(([check, times]) => `${check} ${times}`).join(', ')}`);
const named = CAUSE_KINDS.flatMap(({ wrong }) => wrong);
const heard = named.filter((cause) => findingsOfSite(cause).some(({ check }) => check === cause.check));
console.log(`\nCauses that are named: ${heard.length} of ${named.length}`);
