import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { constants, setPriority } from 'node:os';
import { ensureBuilt } from './setup/build.mjs';
import { assertNodeVersion } from './setup/node-version.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { ROOT, inRoot, programOf } from './setup/paths.mjs';
import { say } from './setup/say.mjs';
import { run } from './setup/setup-error.mjs';
import { withDatabase } from './with-database.mjs';

// Everything that must hold: build and types, then every suite against a database of its own, and beside these layers, format
// and lint.
// Arguments go to Mocha: npm test -- --grep gateway. Files are run alone, and nothing else is checked then:
// npm test -- test/core/order.test.ts
await run(async () => {
  assertNodeVersion();
  say('Setting up');
  await ensurePackages();
  await ensureBuilt();
  const files = process.argv.slice(2).filter((argument) => argument.endsWith('.test.ts'));
  const failed = [];
  if (files.length === 0) {
    say('Checking types');
    if ((await inherit(programOf('tsc'), ['--noEmit', '-p', 'tsconfig.test.json'])) !== 0)
      failed.push('types');
  }
  const beside = files.length > 0 ? [] : checksBeside();
  say('Running the suites');
  const mocha = await withDatabase(process.execPath, [
    inRoot('node_modules/mocha/bin/mocha.js'),
    ...(files.length > 0 ? withoutSpec() : []),
    ...process.argv.slice(2),
  ]);
  for (const { name, status, output } of await beside) {
    if (status === 0) continue;
    console.error(output);
    failed.push(name);
  }
  if (failed.length > 0) console.error(`These checks failed, see above: ${failed.join(', ')}`);
  process.exitCode = failed.length > 0 || mocha !== 0 ? 1 : 0;
});

/** Mocha's own configuration without its list of files, to which those that are named would be added. */
function withoutSpec() {
  const options = JSON.parse(readFileSync(inRoot('.mocharc.json'), 'utf8'));
  delete options.spec;
  return [
    '--no-config',
    ...Object.entries(options).flatMap(([name, value]) =>
      value === true ? [`--${name}`] : [value].flat().flatMap((one) => [`--${name}`, String(one)]),
    ),
  ];
}

/** What needs no suite, one after the other, in what time the suites leave: these wait a lot. */
async function checksBeside() {
  const checks = [
    ['layers', [programOf('depcruise'), '--config', '.dependency-cruiser.mjs', 'packages']],
    ['format', [programOf('prettier'), '--check', '--log-level', 'warn', '.']],
    ['lint', [process.execPath, inRoot('scripts/lint.mjs')]],
  ];
  const ended = [];
  for (const [name, [program, ...args]] of checks)
    ended.push({ name, ...(await inBackground(program, args)) });
  return ended;
}

/** Runs a program behind others; what it says is kept. */
function inBackground(program, args) {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, { cwd: ROOT, stdio: ['ignore', 'pipe', 'pipe'] });
    child.once('error', reject);
    child.once('spawn', () => setPriority(child.pid, constants.priority.PRIORITY_LOW));
    let output = '';
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (data) => {
        output += String(data);
      });
    child.once('close', (code) => resolve({ status: code ?? 1, output }));
  });
}

function inherit(program, args) {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, { cwd: ROOT, stdio: 'inherit' });
    child.once('error', reject);
    child.once('exit', (code) => resolve(code ?? 1));
  });
}
