import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';

/**
 * A generated site as a process of its own: a page in sections of a thousand, about 12 KB each as the median real page,
 * with a menu, a theme's scripts and links to its neighbours. Told how many pages; says its port.
 */
const PER_SECTION = 1_000;
const PARAGRAPHS = 24;

const WORDS =
  'the ferry to Hallow leaves at ten past each hour from the fish quay and takes bicycles for free'.split(
    ' ',
  );

/** Bodies that pages share, so that the site itself costs little. */
const BODIES = Array.from({ length: 97 }, (_, body) =>
  Array.from({ length: PARAGRAPHS }, (__, at) => {
    const words = Array.from({ length: 50 }, (___, i) => WORDS[(body + at * 3 + i * 5) % WORDS.length]);
    const text = words.join(' ');
    return `<section class="block"><h2 id="s${at}">Part ${at}</h2><p>${text} <em>${text.slice(0, 40)}</em></p><ul><li>One</li><li>Two</li></ul></section>`;
  }).join('\n'),
);

export function pathOf(index: number): string {
  return index === 0 ? '/' : `/part-${Math.floor(index / PER_SECTION)}/page-${index}`;
}

export function pageHtml(index: number, pages: number): string {
  const next = Array.from({ length: 12 }, (_, i) => (index * 7 + i * 131 + 1) % pages);
  const links = [...next, (index + 1) % pages, Math.floor(index / PER_SECTION) * PER_SECTION];
  return `<!DOCTYPE html>
<html lang="en"><head><meta charset="utf-8"><title>Page ${index}</title><link rel="stylesheet" href="/site.css">
<script>window.theme = { page: ${index}, token: "t${index}abcdef0123456789" };</script>
<script async src="https://tallymast.example/count.js" data-account="TM-1887"></script></head>
<body class="page"><nav>${links.map((to) => `<a href="${pathOf(to)}">Page ${to}</a>`).join(' ')}</nav>
<main>${BODIES[index % BODIES.length]}</main>
${index % 3 === 0 ? '<div id="map"></div><script src="https://pierlist.example/map.js?key=PL-9"></script>' : ''}
<footer><p>Skerrywick Ferries</p></footer></body></html>`;
}

if (process.argv[1]?.endsWith('survey-site.ts') && process.send) {
  const pages = Number(process.argv[2]);
  const server = createServer((request, response) => {
    const index = request.url === '/' ? 0 : Number(/page-(\d+)$/.exec(request.url ?? '')?.[1] ?? NaN);
    if (!(index < pages)) {
      response.writeHead(404).end();
      return;
    }
    const etag = `"${index}"`;
    if (request.headers['if-none-match'] === etag) response.writeHead(304, { etag }).end();
    else
      response
        .writeHead(200, { 'content-type': 'text/html; charset=utf-8', etag })
        .end(pageHtml(index, pages));
  });
  server.listen(0, '127.0.0.1', () => process.send!((server.address() as AddressInfo).port));
  process.on('disconnect', () => process.exit(0));
}
