import { spawn } from 'node:child_process';
import { ensureBuilt } from './setup/build.mjs';
import { assertNodeVersion } from './setup/node-version.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { ROOT, inRoot } from './setup/paths.mjs';
import { say } from './setup/say.mjs';
import { run } from './setup/setup-error.mjs';
import { withDatabase } from './with-database.mjs';

// Everything that must hold: types, lint, format, build, and every suite against a database of its own.
// Arguments go to Mocha: npm test -- --grep gateway
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
  const failed = [];
  for (const [name, args] of checks) {
    say(`Checking ${name}`);
    if ((await inherit('npx', args)) !== 0) failed.push(name);
  }
  say('Running the suites');
  const mocha = await withDatabase(process.execPath, [
    inRoot('node_modules/mocha/bin/mocha.js'),
    ...process.argv.slice(2),
  ]);
  if (failed.length > 0) console.error(`These checks failed, see above: ${failed.join(', ')}`);
  process.exitCode = failed.length > 0 || mocha !== 0 ? 1 : 0;
});

function inherit(program, args) {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, { cwd: ROOT, stdio: 'inherit' });
    child.once('error', reject);
    child.once('exit', (code) => resolve(code ?? 1));
  });
}
