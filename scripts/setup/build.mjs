import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { command } from './command.mjs';
import { ROOT, inRoot, programOf } from './paths.mjs';
import { step } from './say.mjs';

const PACKAGES = ['core', 'contract', 'backup', 'runtime', 'gateway', 'server', 'cli', 'demo', 'console'];
const STAMPS = inRoot('.cache/build.json');

/** Builds what is stale: the TypeScript of all packages, and the console's page. */
export async function ensureBuilt() {
  const sources = PACKAGES.map((name) => `packages/${name}/src`);
  const shared = [
    'package-lock.json',
    'tsconfig.base.json',
    ...PACKAGES.map((name) => `packages/${name}/tsconfig.json`),
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
  if (stamps.code !== code || !existsSync(inRoot('packages/cli/dist/pragmatica.js'))) {
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
    const isOurs = stem !== undefined && stem !== 'pragmatica';
    if (isOurs && !['.ts', '.tsx', '.mjs'].some((end) => existsSync(`${source}/${stem}${end}`)))
      rmSync(`${built}/${file}`);
  }
}

/** One file in place of some hundreds: the command line starts in half the time. */
async function bundleCommandLine() {
  // Not at the top: the very first start has no packages yet.
  const { build } = await import('esbuild');
  await build({
    entryPoints: [inRoot('packages/cli/dist/main.js')],
    outfile: inRoot('packages/cli/dist/pragmatica.js'),
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    // Packages in the older module format ask for Node's own modules by `require`.
    banner: {
      js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);",
    },
    logLevel: 'error',
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
