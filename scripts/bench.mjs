import { spawn } from 'node:child_process';
import { ensureBuilt } from './setup/build.mjs';
import { assertNodeVersion } from './setup/node-version.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { ROOT, inRoot } from './setup/paths.mjs';
import { SetupError, run } from './setup/setup-error.mjs';

// npm run bench -- [insertion|gateway|soak|isolation|checks|plans|scale|survey|delivery|visits|precision] [arguments]: figures side by side, in one run.
const BENCHES = [
  'insertion',
  'gateway',
  'soak',
  'isolation',
  'checks',
  'plans',
  'scale',
  'survey',
  'delivery',
  'visits',
  'precision',
];

await run(async () => {
  assertNodeVersion();
  const [name = 'insertion', ...args] = process.argv.slice(2);
  if (!BENCHES.includes(name))
    throw new SetupError(`There is no bench "${name}". Name one of these: ${BENCHES.join(', ')}.`);
  await ensurePackages();
  await ensureBuilt();
  const child = spawn(process.execPath, ['--import', 'tsx', inRoot(`bench/${name}.ts`), ...args], {
    cwd: ROOT,
    stdio: 'inherit',
  });
  process.exitCode = await new Promise((resolve) => child.once('exit', (code) => resolve(code ?? 1)));
});
