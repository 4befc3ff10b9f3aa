import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { command } from './command.mjs';
import { step } from './say.mjs';
import { SetupError } from './setup-error.mjs';

const POSTGRES_FOLDER = '/usr/lib/postgresql';

const TOOLS = {
  postgresql: { package: 'postgresql', title: 'PostgreSQL', find: findPostgres },
  chromium: { package: 'chromium-headless-shell', title: 'Chromium', find: findChromium },
  nginx: { package: 'nginx-light', title: 'nginx', find: findNginx },
};
const WHERE = 'say where it is with PRAGMATICA_PG_BIN, PRAGMATICA_CHROMIUM or PRAGMATICA_NGINX.';

/**
 * Makes sure that programs of the system are there. As root, Debian's packages are installed; otherwise the exact
 * command is named.
 *
 * @param {('postgresql'|'chromium'|'nginx')[]} names
 * @param {{ asRoot?: boolean, hasApt?: boolean, environment?: Record<string, string | undefined> }} [machine]
 * @returns {Promise<Record<string, string>>} where each was found
 */
export async function ensureTools(
  names,
  {
    asRoot = process.getuid?.() === 0,
    hasApt = existsSync('/usr/bin/apt-get'),
    environment = process.env,
  } = {},
) {
  const missing = names.filter((name) => TOOLS[name].find(environment) === undefined);
  if (missing.length > 0) {
    const packages = missing.map((name) => TOOLS[name].package);
    const titles = missing.map((name) => TOOLS[name].title).join(' and ');
    if (!hasApt) throw new SetupError(`${titles} not found. Install it, and ${WHERE}`);
    const line = `apt-get install -y ${packages.join(' ')}`;
    if (!asRoot)
      throw new SetupError(
        `${titles} not found. Install it with this command, then start again:\n\n  sudo ${line}`,
      );
    await step(`Installing ${titles} from Debian’s packages`, async () => {
      const env = { DEBIAN_FRONTEND: 'noninteractive' };
      await command('apt-get', ['update'], { env, failure: 'apt-get could not read its package lists.' });
      await command('apt-get', ['install', '-y', '--no-install-recommends', ...packages], {
        env,
        failure: `This failed: ${line}`,
      });
    });
  }
  const found = {};
  for (const name of names) {
    found[name] = TOOLS[name].find(environment);
    if (found[name] === undefined)
      throw new SetupError(`${TOOLS[name].title} was installed but is not where it was expected: ${WHERE}`);
  }
  return found;
}

/** The folder of the newest PostgreSQL's programs. */
function findPostgres(environment) {
  const given = environment.PRAGMATICA_PG_BIN;
  if (given) return existsSync(join(given, 'initdb')) ? given : undefined;
  const versions = existsSync(POSTGRES_FOLDER)
    ? readdirSync(POSTGRES_FOLDER).sort((a, b) => Number(b) - Number(a))
    : [];
  return versions
    .map((version) => join(POSTGRES_FOLDER, version, 'bin'))
    .find((folder) => existsSync(join(folder, 'initdb')));
}

function findChromium(environment) {
  const given = environment.PRAGMATICA_CHROMIUM;
  if (given) return existsSync(given) ? given : undefined;
  return ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find((file) => existsSync(file));
}

function findNginx(environment) {
  const given = environment.PRAGMATICA_NGINX;
  if (given) return existsSync(given) ? given : undefined;
  return ['/usr/sbin/nginx', '/usr/local/sbin/nginx'].find((file) => existsSync(file));
}
