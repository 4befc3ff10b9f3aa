import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { ensureBuilt } from './setup/build.mjs';
import { startChild } from './setup/child.mjs';
import { ensureTools } from './setup/debian.mjs';
import { lockDataFolder } from './setup/lock.mjs';
import { assertNodeVersion } from './setup/node-version.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { ROOT, inRoot } from './setup/paths.mjs';
import { assertPortsFree } from './setup/ports.mjs';
import { startPostgres } from './setup/postgres.mjs';
import { say } from './setup/say.mjs';
import { SetupError, run } from './setup/setup-error.mjs';
import { command } from './setup/command.mjs';
import { welcome } from './setup/welcome.mjs';

const DATABASE = 'pragmatica';

/** What was started, in order; stopped from the last to the first. */
const started = [];
let isStopping = false;

async function main() {
  assertNodeVersion();
  const hasDemo = readArguments(process.argv.slice(2));
  say('Pragmatica is starting');
  if (existsSync(inRoot('.env'))) process.loadEnvFile(inRoot('.env'));
  await ensurePackages();
  await ensureBuilt();
  const settings = await readSettings();
  const data = resolve(ROOT, settings.PRAGMATICA_DATA);
  mkdirSync(join(data, 'logs'), { recursive: true });
  const unlock = lockDataFolder(data);
  started.push({ stop: async () => unlock() });
  await assertPortsFree(settings.PRAGMATICA_HOST, {
    PRAGMATICA_PORT: settings.PRAGMATICA_PORT,
    PRAGMATICA_GATEWAY_PORT: settings.PRAGMATICA_GATEWAY_PORT,
    ...(hasDemo
      ? {
          PRAGMATICA_DEMO_SITE_PORT: settings.PRAGMATICA_DEMO_SITE_PORT,
          PRAGMATICA_DEMO_PROVIDER_PORT: settings.PRAGMATICA_DEMO_PROVIDER_PORT,
        }
      : {}),
  });
  const tools = await ensureTools(
    settings.DATABASE_URL === undefined ? ['postgresql', 'chromium'] : ['chromium'],
  );
  const databaseUrl = settings.DATABASE_URL ?? (await startDatabase(tools.postgresql, data));
  const demo = hasDemo ? await startDemo(settings, data) : undefined;
  const env = { DATABASE_URL: databaseUrl, NODE_ENV: process.env.NODE_ENV ?? 'production' };
  const service = await start({
    title: 'The service',
    file: inRoot('packages/server/dist/main.js'),
    log: join(data, 'logs/service.log'),
    env,
  });
  if (demo) await seedDemo(settings, data, databaseUrl);
  console.log(welcome({ ...service.ready, hasDemo, settings, data }));
}

/** @returns {boolean} whether the demo is wanted */
function readArguments(args) {
  const unknown = args.filter((argument) => argument !== '--no-demo');
  if (unknown.length > 0)
    throw new SetupError(
      `"${unknown[0]}" is not known here. There is one option: npm start -- --no-demo starts an empty service.`,
    );
  return args.length === 0;
}

async function readSettings() {
  const { readSettings: read, SettingsError } = await import('../packages/server/dist/settings.js');
  try {
    return read(process.env);
  } catch (error) {
    if (error instanceof SettingsError) throw new SetupError(error.message);
    throw error;
  }
}

async function startDatabase(bin, data) {
  const postgres = await startPostgres({ bin, data, log: join(data, 'logs/postgres.log') });
  watch(postgres, 'The database', join(data, 'logs/postgres.log'));
  await postgres.createDatabase(DATABASE);
  return postgres.url(DATABASE);
}

async function startDemo(settings, data) {
  const { PRAGMATICA_DEMO_SITE_PORT: site, PRAGMATICA_DEMO_PROVIDER_PORT: providers } = settings;
  const env = { PRAGMATICA_DEMO_SITE_PORT: String(site), PRAGMATICA_DEMO_PROVIDER_PORT: String(providers) };
  return start({
    title: 'The demo site',
    file: inRoot('packages/demo/dist/main.js'),
    log: join(data, 'logs/demo.log'),
    env,
  });
}

async function start(options) {
  const child = await startChild(options);
  watch(child, options.title, options.log);
  return child;
}

/** Something that stops by itself takes the rest with it: half a service helps nobody. */
function watch(part, title, log) {
  started.push(part);
  part.onExit(() => {
    if (isStopping) return;
    console.error(`\n${title} stopped by itself. Its log says why: ${log}\n`);
    void stop(1);
  });
}

/** Fills in the demo, once. */
async function seedDemo(settings, data, databaseUrl) {
  const marker = join(data, 'demo-is-filled-in');
  if (existsSync(marker)) return;
  say('  Filling in the demo …');
  const token = await command(process.execPath, [inRoot('packages/server/dist/set-up-token.js')], {
    env: { DATABASE_URL: databaseUrl },
  });
  const { seed } = await import('../packages/demo/dist/index.js');
  await seed({
    isWhole: true,
    server: `http://127.0.0.1:${settings.PRAGMATICA_PORT}`,
    token: token.trim(),
    gatewayPort: settings.PRAGMATICA_GATEWAY_PORT,
    sitePort: settings.PRAGMATICA_DEMO_SITE_PORT,
    providerPort: settings.PRAGMATICA_DEMO_PROVIDER_PORT,
  });
  writeFileSync(marker, '');
}

async function stop(code) {
  if (isStopping) return;
  isStopping = true;
  for (const part of started.reverse()) await part.stop();
  process.exit(code);
}

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) {
  process.on(signal, () => {
    if (!isStopping) say('\nStopping …');
    void stop(0);
  });
}

await run(async () => {
  try {
    await main();
  } catch (error) {
    isStopping = true;
    for (const part of started.reverse()) await part.stop();
    throw error;
  }
});
