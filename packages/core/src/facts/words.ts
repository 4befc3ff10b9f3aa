import { FACTS_TEXTS, FACT_TITLES, LOAD_NAMES, PASTE_WORDS, SHAPE_NAMES } from '../texts/facts.js';
import { say } from '../texts/say.js';
import { hostOf } from './addresses.js';
import { shortened } from './text.js';
import type { Facts, Load, Use } from './types.js';

/** Facts under one heading, in words that people who do not program can read. */
export interface FactWords {
  readonly title: string;
  readonly lines: readonly string[];
}

/** What a piece of code is and does, in words. Sections without anything to say are left out. */
export function factWords(facts: Facts): FactWords[] {
  const lines: Readonly<Record<keyof typeof FACT_TITLES, readonly string[]>> = {
    shape: [shapeWords(facts)],
    problems: [
      ...facts.pasteMistakes.map(({ kind }) => PASTE_WORDS[kind]),
      ...facts.problems.map(({ line, column, message }) =>
        say(FACTS_TEXTS.problemAt, { line, column, message }),
      ),
    ],
    loads: loadLines(facts.loads),
    accounts: facts.accounts.map(({ domain, ...account }) =>
      domain === undefined
        ? say(FACTS_TEXTS.account, paramsOf(account))
        : say(FACTS_TEXTS.accountAt, { domain, ...paramsOf(account) }),
    ),
    needs: needLines(facts),
    makes: [
      ...facts.defines.map(({ name, isStub }) =>
        say(FACTS_TEXTS.makesName, { name, isStub: String(isStub) }),
      ),
      ...facts.makes.map(({ id }) => say(FACTS_TEXTS.makesElement, { id })),
    ],
    reports: facts.events.map(({ name, to }) => say(FACTS_TEXTS.event, { name: shortened(name), to })),
    keeps: [
      ...new Set(
        facts.storage.map(({ where, key }) =>
          key === undefined ? say(FACTS_TEXTS.keeps, { where }) : say(FACTS_TEXTS.keepsKey, { where, key }),
        ),
      ),
    ],
    boxes: facts.boxes.map(({ corner, position }) => say(FACTS_TEXTS.box, { corner, position })),
    marks: [
      ...facts.marks.map(({ kind, value }) => {
        if (kind === 'secret') return FACTS_TEXTS.secret;
        return say(kind === 'test' ? FACTS_TEXTS.testMode : FACTS_TEXTS.example, { value: shortened(value) });
      }),
      ...facts.writes.map(({ when }) =>
        when === 'parse' ? FACTS_TEXTS.writesWhileRead : FACTS_TEXTS.writesAfterwards,
      ),
    ],
  };
  return (Object.keys(FACT_TITLES) as (keyof typeof FACT_TITLES)[])
    .map((key) => ({ title: FACT_TITLES[key], lines: lines[key] }))
    .filter(({ lines: some }) => some.length > 0);
}

function shapeWords({ shape: { kind, confidence, because } }: Facts): string {
  if (kind === 'other') return FACTS_TEXTS.cannotBeTold;
  return say(FACTS_TEXTS.looksLike, { shape: SHAPE_NAMES[kind], confidence, because });
}

function paramsOf({
  value,
  label,
  confidence,
}: Pick<Facts['accounts'][number], 'value' | 'label' | 'confidence'>) {
  return { value, label, confidence };
}

function needLines({ defines, loads, uses, needs }: Facts): string[] {
  const defined = new Set(defines.map(({ name }) => name));
  const firstScript = loads.find(({ kind }) => kind === 'script')?.range.start ?? Infinity;
  return [
    ...uses.filter((use) => !isOwn(defined, use)).map((use) => useWords(firstScript, use)),
    ...needs.map(({ selector, when, isGuarded, own = 'none' }) =>
      say(FACTS_TEXTS.needsElement, { selector, when, own, isGuarded: String(isGuarded) }),
    ),
  ];
}

/** Code that looks whether something is there and makes it when it is not needs nothing of others. */
function isOwn(defined: ReadonlySet<string>, { name, isGuarded }: Use): boolean {
  return isGuarded && defined.has(name);
}

function useWords(firstScript: number, { name, when, isGuarded, range }: Use): string {
  if (isGuarded) return say(FACTS_TEXTS.needsNameGuarded, { name, when });
  return say(FACTS_TEXTS.needsName, { name, when, from: firstScript < range.start ? 'script' : 'other' });
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

function loadWords({ kind, address, mode, when, noScript, confidence }: Load): string {
  return say(FACTS_TEXTS.loads, {
    kind: LOAD_NAMES[kind],
    host: hostOf(address) ?? FACTS_TEXTS.ownSite,
    waits: mode === 'blocking' ? 'yes' : 'no',
    when: noScript ? 'fallback' : when,
    confidence,
    address: shortened(address, 90),
  });
}
