import { hostOf } from './addresses.js';
import { shortened } from './text.js';
import type { Facts, Load, ExecutionPhase, ShapeKind, Confidence, Use } from './types.js';

/** Facts under one heading, in words that people who do not program can read. */
export interface FactWords {
  readonly title: string;
  readonly lines: readonly string[];
}

const SHAPES: Readonly<{ [kind in ShapeKind]: string }> = {
  analytics: 'something that counts visits',
  container: 'a container for other tags',
  pixel: 'a pixel that reports visits or sales',
  chat: 'a chat window',
  ads: 'adverts',
  'pop-up': 'a pop-up',
  booking: 'a booking button or calendar',
  form: 'a form',
  consent: 'a question for consent',
  accessibility: 'an accessibility menu',
  share: 'share buttons',
  style: 'styles',
  metadata: 'information for search engines and other machines',
  other: 'something that cannot be told from its code',
};

const SURE: Readonly<{ [confidence in Confidence]: string }> = {
  certain: '',
  likely: ' (likely)',
  guess: ' (a guess)',
};

const WHEN: Readonly<{ [moment in ExecutionPhase]: string }> = {
  parse: '',
  deferred: ', after the page was read',
  async: '',
  later: ', later',
};

/** What a piece of code is and does, in words. Sections without anything to say are left out. */
export function factWords(facts: Facts): FactWords[] {
  const { shape } = facts;
  const defined = new Set(facts.defines.map(({ name }) => name));
  const firstScript = Math.min(
    ...facts.loads.flatMap(({ kind, range }) => (kind === 'script' ? [range.start] : [])).slice(0, 1),
    Infinity,
  );
  const sections: FactWords[] = [
    {
      title: 'What it is',
      lines:
        shape.kind === 'other'
          ? ['It cannot be told from its code.']
          : [`Looks like ${SHAPES[shape.kind]}${SURE[shape.confidence]}. ${shape.because}`],
    },
    {
      title: 'Problems',
      lines: facts.problems.map(({ line, column, message }) => `Line ${line}, column ${column}: ${message}`),
    },
    { title: 'Loads', lines: loadLines(facts.loads) },
    {
      title: 'Accounts',
      lines: facts.accounts.map(
        ({ value, label, domain, confidence }) =>
          `${value}${domain === undefined ? '' : ` at ${domain}`}, as “${label}”${SURE[confidence]}`,
      ),
    },
    {
      title: 'Needs',
      lines: [
        ...facts.uses.filter((use) => !isOwn(defined, use)).map((use) => useWords(firstScript, use)),
        ...facts.needs.map(
          ({ selector, when, isGuarded, own }) =>
            `the element ${selector}${own === undefined ? '' : own === 'before' ? ', which it brings itself' : ', which it brings itself, but too late'}${WHEN[when]}${isGuarded ? '; it looks first whether that is there' : ''}`,
        ),
      ],
    },
    {
      title: 'Makes',
      lines: [
        ...facts.defines.map(
          ({ name, isStub }) => `“${name}”${isStub ? ', which waits for the provider’s script' : ''}`,
        ),
        ...facts.makes.map(({ id }) => `an element with the id “${id}”`),
      ],
    },
    { title: 'Reports', lines: facts.events.map(({ name, to }) => `“${shortened(name)}” to ${to}`) },
    {
      title: 'Keeps in the browser',
      lines: [
        ...new Set(
          facts.storage.map(
            ({ where, key }) =>
              `${where === 'cookie' ? 'a cookie' : 'a value'}${key === undefined ? '' : ` “${key}”`} (${where})`,
          ),
        ),
      ],
    },
    {
      title: 'Lies over the page',
      lines: facts.boxes.map(
        ({ corner, position }) => `a box: ${corner}${position === 'sticky' ? ', while the page moves' : ''}`,
      ),
    },
    {
      title: 'Look at',
      lines: [
        ...facts.marks.map(({ kind, value }) =>
          kind === 'placeholder'
            ? `“${shortened(value)}” is an example’s value`
            : kind === 'test'
              ? `test mode: ${shortened(value)}`
              : 'a secret that every visitor can read',
        ),
        ...facts.writes.map(({ when }) =>
          when === 'parse'
            ? 'it writes into the page while the page is read'
            : 'it writes into the page after the page was read, which empties it',
        ),
      ],
    },
  ];
  return sections.filter(({ lines }) => lines.length > 0);
}

/** Code that looks whether something is there and makes it when it is not needs nothing of others. */
function isOwn(defined: ReadonlySet<string>, { name, isGuarded }: Use): boolean {
  return isGuarded && defined.has(name);
}

function useWords(firstScript: number, { name, when, isGuarded, range }: Use): string {
  if (isGuarded) return `“${name}” from other code${WHEN[when]}; it looks first whether that is there`;
  const isBrought = firstScript < range.start;
  return `“${name}” from ${isBrought ? 'the script that it loads, probably' : 'other code'}${WHEN[when]}`;
}

/** Each address once, as it is fetched first. */
function loadLines(loads: readonly Load[]): string[] {
  const first = new Map<string, Load>();
  for (const load of loads) {
    const key = `${load.kind} ${load.address} ${load.noScript}`;
    if (!first.has(key)) first.set(key, load);
  }
  return [...first.values()].map(loadWords);
}

const KINDS: Readonly<{ [kind in Load['kind']]: string }> = {
  script: 'a script',
  style: 'styles',
  image: 'an image',
  frame: 'a frame',
  font: 'a font',
  data: 'data',
  hint: 'something in advance',
};

function loadWords({ kind, address, mode, when, noScript, confidence }: Load): string {
  const from = hostOf(address) ?? 'the site itself';
  const wait = mode === 'blocking' ? ', and the page waits for it' : '';
  const moment = noScript ? ', for browsers without scripts' : WHEN[when];
  return `${KINDS[kind]} from ${from}${wait}${moment}${SURE[confidence]}: ${shortened(address, 90)}`;
}
