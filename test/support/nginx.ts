import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort } from './free-port.js';
import { send } from './http.js';

export interface Nginx {
  readonly port: number;
  close(): Promise<void>;
}

/**
 * A web server of its own in the foreground, with files and what its server block holds.
 *
 * @param pages - HTML by file name
 */
export async function startNginx(pages: Readonly<Record<string, string>>, block: string): Promise<Nginx> {
  const folder = mkdtempSync(join(tmpdir(), 'pragmatica-nginx-'));
  const root = join(folder, 'pages');
  mkdirSync(root, { mode: 0o755 });
  for (const [name, html] of Object.entries(pages)) writeFileSync(join(root, name), html, { mode: 0o644 });
  const port = await freePort();
  const temporary = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi']
    .map((name) => `${name}_temp_path ${join(folder, name)};`)
    .join('\n');
  const config = join(folder, 'nginx.conf');
  writeFileSync(
    config,
    `daemon off;
    ${process.getuid?.() === 0 ? 'user root;' : ''}
    pid ${join(folder, 'pid')};
    error_log ${join(folder, 'errors')};
    events {}
    http {
      access_log off;
      ${temporary}
      default_type text/html;
      server {
        listen 127.0.0.1:${port};
        root ${root};
        ${block}
      }
    }`,
  );
  const child = spawn(process.env['PRAGMATICA_NGINX'] ?? '/usr/sbin/nginx', ['-c', config], {
    stdio: 'ignore',
  });
  const ended = new Promise<void>((resolve) => child.once('exit', () => resolve()));
  for (let tries = 0; tries < 100; tries++) {
    const answer = await send({ port, host: 'localhost', path: '/' }).catch(() => undefined);
    if (answer) break;
    await new Promise((resolve) => setTimeout(resolve, 30));
  }
  return {
    port,
    async close() {
      child.kill('SIGTERM');
      await ended;
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
