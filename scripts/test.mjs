import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { ensureBuilt } from './setup/build.mjs';
import { assertNodeVersion } from './setup/node-version.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { ROOT, inRoot, programOf } from './setup/paths.mjs';
import { say } from './setup/say.mjs';
import { run } from './setup/setup-error.mjs';
import { withDatabase } from './with-database.mjs';

// Everything that must hold: types, lint, layers, format, build, and every suite against a database of its own.
// Arguments go to Mocha: npm test -- --grep gateway. Files are run alone, and nothing else is checked then:
// npm test -- test/core/order.test.ts
await run(async () => {
  assertNodeVersion();
  say('Setting up');
  await ensurePackages();
  await ensureBuilt();
  const checks = [
    ['types', ['tsc', '--noEmit', '-p', 'tsconfig.test.json']],
    ['lint', ['eslint', '.', '--max-warnings', '0']],
    ['layers', ['depcruise', '--config', '.dependency-cruiser.mjs', 'packages']],
    ['format', ['prettier', '--check', '--log-level', 'warn', '.']],
  ];
  const files = process.argv.slice(2).filter((argument) => argument.endsWith('.test.ts'));
  const failed = [];
  for (const [name, [program, ...args]] of files.length > 0 ? [] : checks) {
    say(`Checking ${name}`);
    if ((await inherit(programOf(program), args)) !== 0) failed.push(name);
  }
  say('Running the suites');
  const mocha = await withDatabase(process.execPath, [
    inRoot('node_modules/mocha/bin/mocha.js'),
    ...(files.length > 0 ? withoutSpec() : []),
    ...process.argv.slice(2),
  ]);
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

function inherit(program, args) {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, { cwd: ROOT, stdio: 'inherit' });
    child.once('error', reject);
    child.once('exit', (code) => resolve(code ?? 1));
  });
}
