import type { Facts, Placement } from '@pragmatica/core';
import { LOADERS } from './loaders.js';
import { TROUBLES } from './troubles.js';
import { WIDGETS } from './widgets.js';
import { WILD } from './wild/index.js';

/** A piece of code in one of the styles found in the wild; all makers, accounts and addresses are made up. */
export interface CorpusSnippet {
  readonly name: string;
  readonly code: string;
  readonly placement: Placement;
  /** What the maker says of its place. */
  readonly statement?: string;
}

export const CORPUS: readonly CorpusSnippet[] = [...LOADERS, ...WIDGETS, ...WILD, ...TROUBLES];

/** The facts that were found, a line for each, as `test/corpus/expected.json` keeps them. */
export function factLines(facts: Facts): string[] {
  const words = (...parts: (string | false | undefined)[]): string => parts.filter(Boolean).join(' ');
  return [
    `${facts.language}, ${facts.shape.kind} (${facts.shape.confidence})`,
    ...facts.problems.map((one) => `problem ${one.kind} at ${one.line}:${one.column}`),
    ...facts.loads.map((one) =>
      words(
        'loads',
        one.kind,
        one.address,
        `by ${one.by}`,
        one.mode !== 'none' && one.mode,
        one.when,
        one.noScript && 'without scripts',
        `(${one.confidence})`,
      ),
    ),
    ...facts.defines.map((one) => words('defines', one.what, one.name, one.when, one.isStub && 'stub')),
    ...facts.uses.map((one) => words('uses', one.name, one.when, one.isGuarded && 'guarded')),
    ...facts.needs.map((one) =>
      words('needs', one.selector, one.when, one.isGuarded && 'guarded', one.own && `own ${one.own}`),
    ),
    ...facts.makes.map((one) => `makes #${one.id} by ${one.by}`),
    ...facts.accounts.map((one) =>
      words('account', one.value, `as ${one.label}`, one.domain && `at ${one.domain}`, `(${one.confidence})`),
    ),
    ...facts.settings.map((one) => `settings ${one.name}: ${one.keys.join(', ')}`),
    ...facts.events.map((one) => `event ${one.name} to ${one.to}`),
    ...facts.storage.map((one) => words('keeps', one.where, one.key)),
    ...facts.boxes.map((one) => `box ${one.position} ${one.corner}`),
    ...facts.writes.map((one) => `document.write ${one.when}`),
    ...facts.features.map(({ feature, frame }) => words('asks for', feature, frame && `in ${frame}`)),
    ...facts.marks.map((one) => `mark ${one.kind} ${one.value} (${one.confidence})`),
  ];
}
