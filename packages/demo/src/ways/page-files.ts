import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import type { DemoPage } from '../site-pages.js';

/** The name of a page's file: `/news/tides` is `news/tides.html`. */
export function fileOf(path: string): string {
  return path === '/' ? 'index.html' : `${path.slice(1)}.html`;
}

/** Writes pages as files. @param change - what becomes of each on the way */
export function writePages(
  folder: string,
  pages: ReadonlyMap<string, DemoPage>,
  change: (html: string) => string = (html) => html,
): void {
  for (const [path, { body }] of pages) {
    const file = join(folder, fileOf(path));
    mkdirSync(dirname(file), { recursive: true });
    writeFileSync(file, Buffer.from(change(body.toString('latin1')), 'latin1'));
  }
}

/**
 * A page as a template that includes what it gets, as one would write it by hand: at the ends of head and body, and in the elements
 * that something goes into.
 */
export function withIncludes(html: string): string {
  const include = (placement: string): string =>
    `<!--# include virtual="/pragmatica/${placement}?host=$host&path=$request_uri" -->`;
  // The page whose tags are left out was written by hand, and so are its includes.
  const isBare = !/<\/html>/i.test(html);
  const places: readonly (readonly [place: RegExp, placement: string, side: 'before' | 'after'])[] = isBare
    ? [
        [/<meta /i, 'head-start', 'before'],
        [/(?<=site\.css>)/i, 'head-end', 'before'],
        [/<body>/i, 'body-start', 'after'],
        [/$/, 'body-end', 'before'],
      ]
    : [
        [/<head>/i, 'head-start', 'after'],
        [/<\/head>/i, 'head-end', 'before'],
        [/<body[^>]*>/i, 'body-start', 'after'],
        [/<\/body>(?![^]*<\/body>)/i, 'body-end', 'before'],
      ];
  // There the body begins with what is included, which could stand in a head as well.
  const written = isBare ? html.replace(/<header/i, '<body><header') : html;
  const within = written.replace(
    /id="(booking-widget|newsletter)"[^>]*>/g,
    (start, id: string) => start + include(`inside:${id}`),
  );
  return places.reduce(
    (page, [place, placement, side]) =>
      page.replace(place, (tag) => (side === 'after' ? tag + include(placement) : include(placement) + tag)),
    within,
  );
}
