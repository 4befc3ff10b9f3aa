import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { command } from './command.mjs';
import { ROOT, inRoot, programOf } from './paths.mjs';
import { step } from './say.mjs';

const PACKAGES = ['core', 'contract', 'backup', 'runtime', 'gateway', 'server', 'cli', 'demo', 'console'];
const COMMAND_LINE = 'packages/cli/dist/pragmatica.cjs';
const STAMPS = inRoot('.cache/build.json');

/** Builds what is stale: the TypeScript of all packages, and the console's page. */
export async function ensureBuilt() {
  const sources = PACKAGES.map((name) => `packages/${name}/src`);
  const shared = [
    'package-lock.json',
    'tsconfig.base.json',
    ...PACKAGES.flatMap((name) => [`packages/${name}/package.json`, `packages/${name}/tsconfig.json`]),
  ];
  const stamps = existsSync(STAMPS) ? JSON.parse(readFileSync(STAMPS, 'utf8')) : {};
  const code = fingerprint([...shared, ...sources]);
  const page = fingerprint([
    ...shared,
    ...['core', 'contract', 'console'].map((name) => `packages/${name}/src`),
    'packages/console/index.html',
    'packages/console/vite.config.ts',
    // The pages under Help.
    'docs',
  ]);
  if (stamps.code !== code || !existsSync(inRoot(COMMAND_LINE))) {
    PACKAGES.forEach(removeOrphans);
    await step('Building', () =>
      command(programOf('tsc'), ['-b'], { cwd: ROOT, failure: 'The TypeScript did not compile.' }),
    );
    await bundleCommandLine();
    stamps.code = code;
  }
  if (stamps.page !== page || !existsSync(inRoot('packages/console/dist/app/index.html'))) {
    await step('Building the console', () =>
      command(programOf('vite'), ['build'], {
        cwd: inRoot('packages/console'),
        failure: 'The console could not be built.',
      }),
    );
    stamps.page = page;
  }
  mkdirSync(inRoot('.cache'), { recursive: true });
  writeFileSync(STAMPS, JSON.stringify(stamps));
}

/** What was built of a source that is gone would still be found by whoever asks for it, here and nowhere else. */
function removeOrphans(name) {
  const [source, built] = [inRoot(`packages/${name}/src`), inRoot(`packages/${name}/dist`)];
  if (name === 'console' || !existsSync(built)) return;
  for (const file of readdirSync(built, { recursive: true })) {
    const stem = /^(.*?)(?:\.d)?\.[jt]s(?:\.map)?$/.exec(file)?.[1];
    if (stem !== undefined && !['.ts', '.tsx', '.mjs'].some((end) => existsSync(`${source}/${stem}${end}`)))
      rmSync(`${built}/${file}`);
  }
}

/** One script in place of some hundreds of files, with V8's code for it: the command line starts in half the time. */
async function bundleCommandLine() {
  // Not at the top: the very first start has no packages yet.
  const { build } = await import('esbuild');
  rmSync(inRoot(`${COMMAND_LINE}.cache`), { force: true });
  await build({
    entryPoints: [inRoot('packages/cli/dist/main.js')],
    outfile: inRoot(COMMAND_LINE),
    bundle: true,
    platform: 'node',
    format: 'cjs',
    target: 'node20',
    // A script has no address of its own, as modules do.
    banner: { js: "const bundleUrl = require('node:url').pathToFileURL(__filename).href;" },
    define: { 'import.meta.url': 'bundleUrl' },
    logLevel: 'error',
  });
  await command(process.execPath, [inRoot('scripts/setup/warm-command-line.mjs')], {
    failure: 'The command line could not be started.',
  });
}

/** A hash of names, sizes and times of all files below these paths. */
function fingerprint(paths) {
  const hash = createHash('sha256');
  const visit = (path) => {
    const stats = statSync(inRoot(path));
    if (stats.isDirectory()) for (const name of readdirSync(inRoot(path)).sort()) visit(`${path}/${name}`);
    else hash.update(`${path} ${stats.size} ${stats.mtimeMs}\n`);
  };
  paths.forEach(visit);
  return hash.digest('hex');
}
