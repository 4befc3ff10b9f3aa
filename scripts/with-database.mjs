import { spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureTools } from './setup/debian.mjs';
import { ROOT } from './setup/paths.mjs';
import { startPostgres } from './setup/postgres.mjs';

/**
 * Runs a program with a database server that exists only as long as it runs. The program finds it in
 * TEST_DATABASE_URL, the programs of PostgreSQL in TEST_POSTGRES_BIN, Chromium in PRAGMATICA_CHROMIUM and nginx in PRAGMATICA_NGINX.
 *
 * @returns {Promise<number>} the program's exit status
 */
export async function withDatabase(program, args) {
  const tools = await ensureTools(['postgresql', 'chromium', 'nginx']);
  const data = mkdtempSync(join(tmpdir(), 'pragmatica-'));
  // The database may have to run as another user, who must be let through.
  chmodSync(data, 0o711);
  const postgres = await startPostgres({
    bin: tools.postgresql,
    data,
    log: join(data, 'postgres.log'),
    isThrowAway: true,
  });
  try {
    return await new Promise((resolve, reject) => {
      const env = {
        ...process.env,
        TEST_DATABASE_URL: postgres.url('postgres'),
        TEST_POSTGRES_BIN: tools.postgresql,
        PRAGMATICA_CHROMIUM: tools.chromium,
        PRAGMATICA_NGINX: tools.nginx,
      };
      const child = spawn(program, args, { cwd: ROOT, stdio: 'inherit', env });
      for (const signal of ['SIGINT', 'SIGTERM']) process.once(signal, () => child.kill(signal));
      child.once('error', reject);
      child.once('exit', (code) => resolve(code ?? 1));
    });
  } finally {
    await postgres.stop();
    postgres.remove();
    rmSync(data, { recursive: true, force: true });
  }
}
