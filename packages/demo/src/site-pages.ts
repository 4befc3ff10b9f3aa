import { readFileSync, readdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const FOLDER = join(dirname(fileURLToPath(import.meta.url)), '..');

export interface DemoPage {
  readonly path: string;
  readonly title: string;
  readonly body: Buffer;
  readonly headers: Readonly<Record<string, string>>;
  /** The origin sends it compressed, whether asked or not. */
  readonly isCompressed: boolean;
}

const NAVIGATION = [
  ['/timetables', 'Timetables'],
  ['/fares', 'Fares'],
  ['/booking', 'Booking'],
  ['/islands', 'Islands'],
  ['/news', 'News'],
  ['/contact', 'Contact'],
] as const;

/**
 * The demo site's pages, with the accidents that real sites have: a counter hard-coded in the theme of the news, a page
 * with most tags left out, one in Latin-1, one that always comes compressed, one with a strict content policy.
 *
 * @param providerPort - port of the stand-in providers, for the hard-coded counter
 */
export function loadPages(providerPort: number): Map<string, DemoPage> {
  const theme = readFileSync(join(FOLDER, 'pages/_theme.html'), 'utf8');
  const files = readdirSync(join(FOLDER, 'pages'), { recursive: true, encoding: 'utf8' }).filter(
    (file) => file.endsWith('.html') && !file.startsWith('_'),
  );
  const pages = files.map((file): DemoPage => {
    const path = pathOf(file);
    const source = readFileSync(join(FOLDER, 'pages', file), 'utf8');
    if (file.endsWith('.raw.html')) return rawPage(path, source);
    return themedPage(path, source, theme, providerPort);
  });
  return new Map(pages.sort((a, b) => a.path.localeCompare(b.path)).map((page) => [page.path, page]));
}

export function readAsset(name: string): Buffer {
  return readFileSync(join(FOLDER, 'assets', name));
}

/** The counter as an earlier web designer pasted it into the theme of the news pages. */
export function counterCode(providerPort: number): string {
  return `<script async src="http://tallymast.localhost:${providerPort}/count.js" data-account="TM-1887"></script>`;
}

function themedPage(path: string, source: string, theme: string, providerPort: number): DemoPage {
  const [, title, description] = /^<!-- (.+?) \| (.+?) -->/.exec(source)!;
  const navigation = NAVIGATION.map(([href, text]) => {
    const current = path === href || path.startsWith(`${href}/`) ? ' aria-current="page"' : '';
    return `<a href="${href}"${current}>${text}</a>`;
  });
  const values: Record<string, string> = {
    title: title!,
    description: description!,
    nav: navigation.join(' '),
    head: path.startsWith('/news') ? `\n  <!-- visits -->\n  ${counterCode(providerPort)}` : '',
    main: source.slice(source.indexOf('-->') + 4).trimEnd(),
  };
  const html = theme.replace(/\{\{(\w+)\}\}/g, (_, name: string) => values[name]!);
  const headers: Record<string, string> = { 'content-type': 'text/html; charset=utf-8' };
  if (path === '/booking/confirmation')
    headers['content-security-policy'] =
      "default-src 'self'; script-src 'self'; style-src 'self'; img-src 'self' data:";
  return {
    path,
    title: title!,
    body: Buffer.from(html),
    headers,
    isCompressed: path === '/timetables/winter',
  };
}

function rawPage(path: string, source: string): DemoPage {
  const title = /<title>(.*?) [·-]/i.exec(source)![1]!;
  if (path !== '/history')
    return {
      path,
      title,
      body: Buffer.from(source),
      headers: { 'content-type': 'text/html; charset=utf-8' },
      isCompressed: false,
    };
  return {
    path,
    title,
    body: Buffer.from(source, 'latin1'),
    headers: { 'content-type': 'text/html' },
    isCompressed: false,
  };
}

function pathOf(file: string): string {
  const name = file.replace(/(\.raw)?\.html$/, '').replace(/(^|\/)index$/, '');
  return `/${name}`;
}
