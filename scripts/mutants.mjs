import { cpSync, existsSync, mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { spawn, spawnSync } from 'node:child_process';
import { dirname, join } from 'node:path';
import { assertNodeVersion } from './setup/node-version.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { ROOT, inRoot } from './setup/paths.mjs';
import { say } from './setup/say.mjs';
import { SetupError, run } from './setup/setup-error.mjs';
import { withDatabase } from './with-database.mjs';

// Mutation testing: npm run mutants -- packages/core/src/plan [test/core/plan.test.ts …]
// Each small change of the folder's code is tried against the tests that reach it; one that no test notices has survived.
// It works on a copy of the project, which is built with all changes in it, each switched on by itself.

/** Nothing of these reaches a rule by a shorter way than others do, and they take minutes. */
const SLOW = /insert-|real-pages|scanner-module|anchor-properties|encodings|waiting-script/;
/** So many examples of each property: there are hundreds of changes. */
const PROPERTY_RUNS = '40';
const COPY = inRoot('.cache/mutants');

await run(async () => {
  assertNodeVersion();
  const [folder = '', ...named] = process.argv.slice(2);
  if (!folder.startsWith('packages/') || !existsSync(inRoot(folder)))
    throw new SetupError('Name a folder, like: npm run mutants -- packages/core/src/plan');
  await ensurePackages();
  say('Copying the project');
  copyProject();
  const files = named.length > 0 ? named : testsOf(folder.split('/')[1]);
  const build = ['core', 'contract', 'runtime', 'gateway', 'visitor', 'server', 'cli', 'demo'];
  writeFileSync(join(COPY, 'mutants.mocharc.json'), JSON.stringify({ extension: ['ts'], timeout: 90_000 }));
  writeFileSync(
    join(COPY, 'stryker.config.json'),
    JSON.stringify({
      packageManager: 'npm',
      testRunner: 'mocha',
      plugins: ['@stryker-mutator/mocha-runner'],
      inPlace: true,
      mochaOptions: { config: 'mutants.mocharc.json', spec: files },
      testRunnerNodeArgs: ['--import=tsx'],
      buildCommand: `npx tsc -b ${build.map((name) => `packages/${name}`).join(' ')}`,
      // What runs in browsers is tried there.
      mutate: [`${folder}/**/*.ts`, '!**/in-browser.ts'],
      coverageAnalysis: 'perTest',
      // What is worked out once when a file is loaded cannot be switched on for one test.
      ignoreStatic: true,
      checkers: [],
      concurrency: 2,
      timeoutMS: 10_000,
      reporters: ['clear-text', 'json', 'progress-append-only'],
      clearTextReporter: { allowEmojis: false, logTests: false, reportTests: false },
      jsonReporter: { fileName: 'mutants.json' },
    }),
  );
  const program = [join(COPY, 'node_modules/.bin/stryker'), ['run', 'stryker.config.json']];
  const env = { ...process.env, PROPERTY_RUNS };
  process.exitCode = folder.startsWith('packages/core/')
    ? await inCopy(...program, env)
    : await withDatabase(process.execPath, [
        inRoot('scripts/in-folder.mjs'),
        COPY,
        program[0],
        ...program[1],
      ]);
  const report = inRoot(`.cache/mutants-${folder.replace(/^packages\//, '').replaceAll('/', '-')}.json`);
  if (existsSync(join(COPY, 'mutants.json'))) cpSync(join(COPY, 'mutants.json'), report);
});

/** What git knows and what it would take, with the packages that are installed. */
function copyProject() {
  rmSync(COPY, { recursive: true, force: true });
  const listed = spawnSync('git', ['ls-files', '-co', '--exclude-standard', '-z'], {
    cwd: ROOT,
    encoding: 'utf8',
  });
  for (const file of listed.stdout.split('\0').filter((name) => name !== '' && existsSync(inRoot(name)))) {
    mkdirSync(dirname(join(COPY, file)), { recursive: true });
    cpSync(inRoot(file), join(COPY, file));
  }
  const installed = [
    'node_modules',
    ...['cli', 'console', 'contract', 'core', 'gateway', 'runtime', 'server'].map(
      (name) => `packages/${name}/node_modules`,
    ),
  ];
  // Links to our own packages are relative: those of the copy lead into the copy.
  for (const folder of installed)
    if (existsSync(inRoot(folder))) spawnSync('cp', ['-al', inRoot(folder), join(COPY, folder)]);
}

function testsOf(name) {
  const listed = spawnSync('git', ['ls-files', `test/${name}`], { cwd: ROOT, encoding: 'utf8' });
  return listed.stdout.split('\n').filter((file) => file.endsWith('.test.ts') && !SLOW.test(file));
}

function inCopy(program, args, env) {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, { cwd: COPY, stdio: 'inherit', env });
    child.once('error', reject);
    child.once('exit', (code) => resolve(code ?? 1));
  });
}
