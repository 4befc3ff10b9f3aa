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
import { say, step } from './setup/say.mjs';
import { supervise } from './setup/supervise.mjs';
import { SetupError, run } from './setup/setup-error.mjs';
import { command } from './setup/command.mjs';
import { welcome } from './setup/welcome.mjs';

const DATABASE = 'pragmatica';

/** What was started, in order: the lock, the database where it is ours, then what stands on it. */
const started = [];
let hasOwnDatabase = false;
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
  mkdirSync(join(data, 'logs'), { recursive: true, mode: 0o700 });
  const unlock = lockDataFolder(data);
  started.push({ stop: async () => unlock() });
  await assertPortsFree(settings.PRAGMATICA_HOST, {
    PRAGMATICA_PORT: settings.PRAGMATICA_PORT,
    PRAGMATICA_PREVIEW_PORT: settings.PRAGMATICA_PREVIEW_PORT,
    PRAGMATICA_GATEWAY_PORT: settings.PRAGMATICA_GATEWAY_PORT,
    PRAGMATICA_GATEWAY_STATUS_PORT: settings.PRAGMATICA_GATEWAY_STATUS_PORT,
    ...(hasDemo
      ? {
          PRAGMATICA_DEMO_SITE_PORT: settings.PRAGMATICA_DEMO_SITE_PORT,
          PRAGMATICA_DEMO_PROVIDER_PORT: settings.PRAGMATICA_DEMO_PROVIDER_PORT,
          PRAGMATICA_DEMO_NODE_PORT: settings.PRAGMATICA_DEMO_NODE_PORT,
          PRAGMATICA_DEMO_NGINX_PORT: settings.PRAGMATICA_DEMO_NGINX_PORT,
        }
      : {}),
  });
  const tools = await ensureTools(
    settings.DATABASE_URL === undefined ? ['postgresql', 'chromium'] : ['chromium'],
  );
  const databaseUrl = settings.DATABASE_URL ?? (await startDatabase(tools.postgresql, data));
  // Each takes some seconds to be there: what needs nothing of the others comes up beside them.
  const demoSite = hasDemo ? startDemo(settings, data) : undefined;
  const env = {
    DATABASE_URL: databaseUrl,
    PRAGMATICA_DATA: data,
    // The demo’s own servers stand on this machine.
    ...(hasDemo ? { PRAGMATICA_LOCAL_ORIGINS: process.env.PRAGMATICA_LOCAL_ORIGINS || '1' } : {}),
    NODE_ENV: process.env.NODE_ENV ?? 'production',
  };
  // Visitors first, where there is something to serve; a new database gets its tables from the service.
  const servesAlready = await hasReleases(settings, databaseUrl);
  const early = servesAlready ? await startGateway(data, env) : undefined;
  const [service] = await allOf([
    keep({
      title: 'The service',
      file: inRoot('packages/server/dist/main.js'),
      log: join(data, 'logs/service.log'),
      env,
      mayWait: servesAlready,
      // Each start gives another one, as long as nobody has chosen a password.
      again: ({ ready }) => {
        if (ready.firstSignIn) say(`  The one-time password is now  ${ready.firstSignIn.password}`);
      },
    }),
    demoSite,
  ]);
  const fillIn = async () => {
    await seedDemo(settings, data, databaseUrl);
    await startWays(settings, data, databaseUrl);
  };
  const [gateway] = await allOf([
    early ?? startGateway(data, env),
    keep({
      title: 'The worker',
      file: inRoot('packages/server/dist/worker-main.js'),
      log: join(data, 'logs/worker.log'),
      env,
      mayWait: true,
    }),
    hasDemo && service ? fillIn() : undefined,
  ]);
  const address = service?.ready.address ?? `http://localhost:${settings.PRAGMATICA_PORT}`;
  const firstSignIn = service?.ready.firstSignIn;
  const { gatewayPort } = gateway.ready;
  console.log(welcome({ address, firstSignIn, gatewayPort, hasDemo, settings, data }));
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
  const { readSettings: readService } = await import('../packages/server/dist/settings.js');
  const { readGatewaySettings } = await import('../packages/gateway/dist/settings.js');
  const { SettingsError } = await import('../packages/runtime/dist/index.js');
  try {
    return { ...readGatewaySettings(process.env), ...readService(process.env) };
  } catch (error) {
    if (error instanceof SettingsError) throw new SetupError(error.message);
    throw error;
  }
}

/** Whether an earlier run left releases of this database on disk. */
async function hasReleases(settings, databaseUrl) {
  const { releaseFiles } = await import('../packages/gateway/dist/index.js');
  const files = releaseFiles(
    { ...settings, PRAGMATICA_DATA: resolve(ROOT, settings.PRAGMATICA_DATA) },
    databaseUrl,
  );
  return (await files.readState().catch(() => undefined)) !== undefined;
}

async function startDatabase(bin, data) {
  const log = join(data, 'logs/postgres.log');
  // Whoever is connected looks for it at the same port again.
  let port;
  let postgres;
  const supervised = await supervise({
    title: 'The database',
    log,
    start: async () => {
      postgres = await startPostgres({ bin, data, log, port });
      port = postgres.port;
      return postgres;
    },
  });
  started.push(supervised);
  hasOwnDatabase = true;
  await postgres.createDatabase(DATABASE);
  return postgres.url(DATABASE);
}

async function startDemo(settings, data) {
  const { PRAGMATICA_DEMO_SITE_PORT: site, PRAGMATICA_DEMO_PROVIDER_PORT: providers } = settings;
  const env = {
    PRAGMATICA_DEMO_SITE_PORT: String(site),
    PRAGMATICA_DEMO_PROVIDER_PORT: String(providers),
    PRAGMATICA_GATEWAY_PORT: String(settings.PRAGMATICA_GATEWAY_PORT),
  };
  return keep({
    title: 'The demo site',
    file: inRoot('packages/demo/dist/main.js'),
    log: join(data, 'logs/demo.log'),
    env,
  });
}

/** The demo's hosts that get their code in other ways. One that cannot be there is no reason for the others not to start. */
async function startWays(settings, data, databaseUrl) {
  const tools = await ensureTools(['nginx']).catch(() => ({}));
  if (tools.nginx === undefined) say('  nginx is not here: two of the demo’s hosts are not served.');
  const tokenProgram = inRoot('packages/server/dist/set-up-token.js');
  const server = `http://127.0.0.1:${settings.PRAGMATICA_PORT}`;
  const ports = {
    gatewayPort: settings.PRAGMATICA_GATEWAY_PORT,
    sitePort: settings.PRAGMATICA_DEMO_SITE_PORT,
    nodePort: settings.PRAGMATICA_DEMO_NODE_PORT,
    nginxPort: settings.PRAGMATICA_DEMO_NGINX_PORT,
  };
  const marker = join(data, 'demo-ways-are-filled-in');
  if (!existsSync(marker)) {
    const token = await command(process.execPath, [tokenProgram], { env: { DATABASE_URL: databaseUrl } });
    const { seedWays } = await import('../packages/demo/dist/index.js');
    await seedWays({ ...ports, server, token: token.trim() });
    writeFileSync(marker, '');
  }
  await keep({
    title: 'The demo’s other ways',
    file: inRoot('packages/demo/dist/ways/main.js'),
    log: join(data, 'logs/demo-ways.log'),
    mayWait: true,
    env: {
      DATABASE_URL: databaseUrl,
      PRAGMATICA_SERVER: server,
      PRAGMATICA_TOKEN_PROGRAM: tokenProgram,
      PRAGMATICA_GATEWAY_PORT: String(ports.gatewayPort),
      PRAGMATICA_DEMO_PROVIDER_PORT: String(settings.PRAGMATICA_DEMO_PROVIDER_PORT),
      PRAGMATICA_DEMO_NODE_PORT: String(ports.nodePort),
      PRAGMATICA_DEMO_NGINX_PORT: String(ports.nginxPort),
      PRAGMATICA_DEMO_FOLDER: join(data, 'demo-ways'),
      PRAGMATICA_NGINX: tools.nginx ?? '',
      PRAGMATICA_COMMAND_LINE: inRoot('packages/cli/bin/pragmatica.js'),
    },
  });
}

async function startGateway(data, env) {
  return keep({
    title: 'The gateway',
    file: inRoot('packages/gateway/dist/main.js'),
    log: join(data, 'logs/gateway.log'),
    env,
  });
}

/** Starts one of our programs, and starts it again whenever it ends by itself. @returns it, once it runs */
async function keep({ mayWait, again, ...options }) {
  const supervised = await supervise({
    title: options.title,
    log: options.log,
    start: () => startChild(options),
    mayWait,
    again,
  });
  started.push(supervised);
  return supervised.first;
}

/** What all of these give, once none is under way any more: one that fails leaves nothing behind that starts later. */
async function allOf(promises) {
  const settled = await Promise.allSettled(promises);
  const failed = settled.find(({ status }) => status === 'rejected');
  if (failed) throw failed.reason;
  return settled.map(({ value }) => value);
}

/** Fills in the demo, once. */
async function seedDemo(settings, data, databaseUrl) {
  const marker = join(data, 'demo-is-filled-in');
  if (existsSync(marker)) return;
  await step('Filling in the demo', async () => {
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
  });
  writeFileSync(marker, '');
}

async function stop(code) {
  if (isStopping) return;
  isStopping = true;
  await stopAll();
  process.exit(code);
}

/** What stands on the database goes first, all of it at once: one that hangs holds up none of the others. */
async function stopAll() {
  const [unlock, ...parts] = started;
  const database = hasOwnDatabase ? parts.shift() : undefined;
  await Promise.all(parts.map((part) => part.stop()));
  await database?.stop();
  await unlock?.stop();
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
    await stopAll();
    throw error;
  }
});
