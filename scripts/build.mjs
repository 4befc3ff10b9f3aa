import { ensureBuilt } from './setup/build.mjs';
import { assertNodeVersion } from './setup/node-version.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { run } from './setup/setup-error.mjs';

// Builds whatever is stale.
await run(async () => {
  assertNodeVersion();
  await ensurePackages();
  await ensureBuilt();
});
