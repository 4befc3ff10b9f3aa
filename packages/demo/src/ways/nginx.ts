import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { DemoPage } from '../site-pages.js';
import { startBound, type BoundProcess } from './bound-process.js';
import { wayHost } from './hosts.js';
import { fileOf } from './page-files.js';

export interface NginxOptions {
  /** Its program. */
  readonly program: string;
  readonly port: number;
  /** A folder of its own. */
  readonly folder: string;
  readonly pages: ReadonlyMap<string, DemoPage>;
  /** Folders of pages, by way. */
  readonly includes: string;
  readonly written: string;
  readonly assets: string;
  /** Server block with what nginx has to know for includes. */
  readonly fragments: string;
}

/** A web server with two hosts: one that includes what pages get, one that serves files with it in them. */
export function startNginx(options: NginxOptions): BoundProcess {
  const { program, folder } = options;
  mkdirSync(folder, { recursive: true });
  const config = join(folder, 'nginx.conf');
  writeFileSync(config, configuration(options));
  return startBound(program, ['-c', config]);
}

function configuration({ folder, port, includes, written, fragments, ...options }: NginxOptions): string {
  const temporary = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi'].map(
    (name) => `${name}_temp_path ${join(folder, name)};`,
  );
  const server = (host: string, root: string, isIncluding: boolean): string =>
    [
      'server {',
      `listen 127.0.0.1:${port};`,
      `server_name ${host};`,
      `root ${root};`,
      isIncluding ? fragments.replace(/location \/ \{\s*ssi on;\s*\}/, '') : '',
      ...[...options.pages].map(([path, page]) => pageLocation(path, page, isIncluding)),
      `location /assets/ { alias ${options.assets}/; types { text/css css; } }`,
      'location = /robots.txt { types {} default_type text/plain; return 200 "User-agent: *\\nAllow: /\\n"; }',
      sitemap(options.pages, `${host}:${port}`),
      '}',
    ].join('\n');
  return `daemon off;
${process.getuid?.() === 0 ? 'user root;' : ''}
worker_processes 1;
pid ${join(folder, 'pid')};
error_log ${join(folder, 'errors.log')};
events {}
http {
access_log off;
${temporary.join('\n')}
${server(wayHost('fragments'), includes, true)}
${server(wayHost('folder'), written, false)}
}
`;
}

/** A page of the site, with the headers that it has everywhere. */
function pageLocation(path: string, { headers }: DemoPage, isIncluding: boolean): string {
  const [type, charset] = headers['content-type']!.split('; charset=');
  const policy = headers['content-security-policy'];
  return [
    `location = ${path} {`,
    isIncluding ? 'ssi on;' : '',
    'types {}',
    `default_type ${type!};`,
    // What has includes is known by its type alone.
    `charset ${charset ?? 'off'};`,
    policy === undefined ? '' : `add_header Content-Security-Policy "${policy}";`,
    `try_files /${fileOf(path)} =404;`,
    '}',
  ].join('\n');
}

function sitemap(pages: ReadonlyMap<string, DemoPage>, host: string): string {
  const urls = [...pages.keys()].map((path) => `<url><loc>http://${host}${path}</loc></url>`).join('');
  const xml = `<?xml version='1.0' encoding='UTF-8'?><urlset xmlns='http://www.sitemaps.org/schemas/sitemap/0.9'>${urls}</urlset>`;
  return `location = /sitemap.xml { types {} default_type application/xml; return 200 "${xml}"; }`;
}
