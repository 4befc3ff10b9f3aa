import { spawn } from 'node:child_process';
import { ensureBuilt } from './setup/build.mjs';
import { assertNodeVersion } from './setup/node-version.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { ROOT, inRoot } from './setup/paths.mjs';
import { run } from './setup/setup-error.mjs';
import { withDatabase } from './with-database.mjs';

// npm run fuzz -- [--what insert|read|check|pattern|api] --seconds N: inputs that nobody would write.

await run(async () => {
  assertNodeVersion();
  await ensurePackages();
  await ensureBuilt();
  const args = ['--import', 'tsx', inRoot('test/fuzz/fuzz.ts'), ...process.argv.slice(2)];
  // Only the API needs a database.
  if (args.includes('api')) {
    process.exitCode = await withDatabase(process.execPath, args);
    return;
  }
  const child = spawn(process.execPath, args, { cwd: ROOT, stdio: 'inherit' });
  process.exitCode = await new Promise((resolve) => child.once('exit', (code) => resolve(code ?? 1)));
});
