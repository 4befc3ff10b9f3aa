import { spawn } from 'node:child_process';
import { ensureBuilt } from './setup/build.mjs';
import { assertNodeVersion } from './setup/node-version.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { ROOT, inRoot } from './setup/paths.mjs';
import { run } from './setup/setup-error.mjs';

// npm run fuzz -- --seconds N: pages that nobody would write, compared with a whole parser.

await run(async () => {
  assertNodeVersion();
  await ensurePackages();
  await ensureBuilt();
  const child = spawn(
    process.execPath,
    ['--import', 'tsx', inRoot('test/fuzz/fuzz.ts'), ...process.argv.slice(2)],
    {
      cwd: ROOT,
      stdio: 'inherit',
    },
  );
  process.exitCode = await new Promise((resolve) => child.once('exit', (code) => resolve(code ?? 1)));
});
