import { existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { command } from './setup/command.mjs';
import { ensureBuilt } from './setup/build.mjs';
import { assertNodeVersion } from './setup/node-version.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { ROOT, inRoot, programOf } from './setup/paths.mjs';
import { step } from './setup/say.mjs';
import { run, SetupError } from './setup/setup-error.mjs';
import { withDatabase } from './with-database.mjs';

// npm run former -- REVISION: runs the service of that revision beside this one, on the database that this one has brought up to date.

await run(async () => {
  const revision = process.argv[2];
  if (revision === undefined)
    throw new SetupError('Name the revision that is at work now, like: npm run former -- v1.2.0');
  assertNodeVersion();
  await ensurePackages();
  await ensureBuilt();
  const folder = join(mkdtempSync(join(tmpdir(), 'pragmatica-former-')), 'tree');
  const git = (...args) =>
    command('git', args, { cwd: ROOT, failure: `The revision ${revision} could not be taken out.` });
  await git('worktree', 'add', '--detach', folder, revision);
  try {
    linkPackages(folder);
    await step(`Building ${revision}`, () =>
      command(programOf('tsc'), ['-b', 'packages/server'], {
        cwd: folder,
        failure: 'The former version did not compile.',
      }),
    );
    process.env.FORMER_ROOT = folder;
    process.exitCode = await withDatabase(process.execPath, [
      inRoot('node_modules/mocha/bin/mocha.js'),
      ...['--no-config', '--node-option', 'import=tsx', '--exit', inRoot('test/drills/former-version.ts')],
    ]);
  } finally {
    await git('worktree', 'remove', '--force', folder);
    rmSync(join(folder, '..'), { recursive: true, force: true });
  }
});

/** Its own packages, and what they need from those that are installed here. */
function linkPackages(folder) {
  const modules = join(folder, 'node_modules');
  mkdirSync(join(modules, '@pragmatica'), { recursive: true });
  for (const name of readdirSync(inRoot('node_modules')).filter((entry) => entry !== '@pragmatica'))
    symlinkSync(inRoot('node_modules', name), join(modules, name));
  for (const name of readdirSync(join(folder, 'packages'))) {
    symlinkSync(join(folder, 'packages', name), join(modules, '@pragmatica', name));
    const own = inRoot('packages', name, 'node_modules');
    if (existsSync(own)) symlinkSync(own, join(folder, 'packages', name, 'node_modules'));
  }
}
