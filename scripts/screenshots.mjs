import { ensureBuilt } from './setup/build.mjs';
import { assertNodeVersion } from './setup/node-version.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { inRoot } from './setup/paths.mjs';
import { run } from './setup/setup-error.mjs';
import { withDatabase } from './with-database.mjs';

// Takes the pictures in docs/screenshots from the demo data. `npm run screenshots -- DIR` puts them elsewhere.
await run(async () => {
  assertNodeVersion();
  await ensurePackages();
  await ensureBuilt();
  const args = ['--import', 'tsx', inRoot('scripts/take-screenshots.ts'), ...process.argv.slice(2)];
  process.exitCode = await withDatabase(process.execPath, args);
});
