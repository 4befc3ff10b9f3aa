import type { Range } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';

const WAITS = "<script>window.addEventListener('load', () => window.boats.draw());</script>";
/** A listener for the two moments that come once: the page has been read, and everything in it has arrived. */
const LISTENS =
  /(?<![.\w])(?:(?:document|window|self)\.)?addEventListener\(\s*(["'`])(DOMContentLoaded|load)\1/;
const ASSIGNS = /(?<![.\w])(?:window|self)\.onload\s*=(?!=)/;

export const readyLate = defineCheck({
  id: 'ready-late',
  area: 'delivery',
  severity: 'advice',
  title: 'Waits for a moment that may be past',
  why: 'A page becomes ready once and loads once. Code that arrives later and waits for that would wait forever.',
  asks: ['hosts'],
  messages: {
    called: {
      title: '{part} waits for “{moment}”, which may be past when it arrives',
      advice:
        'On {hosts} a script loads it, perhaps after the page is ready. Pragmatica then runs the waiting code straight away, so it usually still works. Look at the page once; if something is missing, ask the provider for code that checks document.readyState first.',
    },
  },
  roles: { waits: 'waits here' },
  given: 'The site gets everything by the one line in its async form.',
  delivery: 'async-line',
  isFixable: false,
  wrong: [{ name: 'Boats', parts: [{ placement: 'body-end', code: WAITS }] }],
  right: [
    {
      name: 'Boats',
      parts: [{ placement: 'body-end', code: '<script>window.boats = { next: 0 };</script>' }],
    },
  ],
  *run(set) {
    for (const part of set.running) {
      const listens = LISTENS.exec(part.code);
      const found = listens ?? ASSIGNS.exec(part.code);
      if (!found || !isScript(part.facts.pieces, found.index)) continue;
      const hosts = set.hostsWhere(part, ['late']);
      if (hosts.length === 0) continue;
      const range: Range = { start: found.index, end: found.index + found[0].length };
      const about = {
        about: 'ready',
        subjects: [subject(part)],
        evidence: [evidence(part, range, 'waits')],
      };
      const params = { part: partName(part), hosts, moment: listens?.[2] ?? 'load' };
      yield { ...about, message: 'called', params };
    }
  },
});

/** Whether a place in the code is a script’s: what stands in texts and comments waits for nothing. */
function isScript(pieces: readonly { readonly kind: string; readonly range: Range }[], at: number): boolean {
  return pieces.some(({ kind, range }) => kind === 'script' && range.start <= at && at < range.end);
}
