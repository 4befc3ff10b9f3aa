import { PatternAutomaton, type Step } from './automaton.js';
import { readOrNothing } from './page-matcher.js';
import type { PagePattern } from './page-pattern.js';
import type { PatternPart } from './parts.js';
import type { RegexpNode } from './regexp.js';

/** What stands for anything in a component, and for a name; and the characters that end the component. */
const COMPONENTS = {
  host: { anything: '[^ ]', segment: '[^ .]', stops: ' ' },
  path: { anything: '[^?]', segment: '[^/?]', stops: '?' },
  search: { anything: '[^]', segment: '[^]', stops: '' },
} as const;

type Piece = keyof typeof COMPONENTS;

/**
 * A regular expression, in ECMAScript's syntax, that matches the page texts (see `pageText`) which the pattern matches,
 * for where there is an engine of regular expressions and nothing else. What is no valid pattern matches nothing.
 */
export function pageRegexp(source: string): string {
  const pattern = readOrNothing(source);
  if (!pattern) return '(?!)';
  const { host, path, search } = pattern;
  const before = host ? sequence(host, 'host') : '[^ ]*';
  const behind = search ? `${sequence(search, 'search')}$` : '';
  return `^${before} ${sequence(path, 'path')}\\?${behind}`;
}

function sequence(parts: readonly PatternPart[], piece: Piece): string {
  return parts.map((part) => partSource(part, piece)).join('');
}

/** URLPattern Standard, 2.1.4, "generate a regular expression and name list". */
function partSource(part: PatternPart, piece: Piece): string {
  const { modifier } = part;
  if (part.kind === 'text') {
    const text = escaped(part.value);
    return modifier === '' ? text : `(?:${text})${modifier}`;
  }
  const { anything, segment } = COMPONENTS[piece];
  const body =
    part.kind === 'regexp'
      ? `(?:${nodeSource(part.regexp, piece)})`
      : part.kind === 'anything'
        ? `${anything}*`
        : `${segment}+`;
  const prefix = escaped(part.prefix);
  const suffix = escaped(part.suffix);
  if (modifier === '') return prefix + body + suffix;
  if (modifier === '?') return `(?:${prefix}${body}${suffix})?`;
  const many = `${prefix}${body}(?:${suffix}${prefix}${body})*${suffix}`;
  return modifier === '*' ? `(?:${many})?` : many;
}

function nodeSource(node: RegexpNode, piece: Piece): string {
  switch (node.kind) {
    case 'one-of':
      return setSource(
        [...node.set].filter((one) => !COMPONENTS[piece].stops.includes(String.fromCharCode(one))),
      );
    case 'sequence':
      return node.parts.map((part) => nodeSource(part, piece)).join('');
    case 'choice':
      return `(?:${node.parts.map((part) => nodeSource(part, piece)).join('|')})`;
    case 'repeat':
      return `(?:${nodeSource(node.part, piece)}){${node.min},${node.max === Infinity ? '' : node.max}}`;
  }
}

/** A class of ASCII characters, in runs. */
function setSource(codes: readonly number[]): string {
  if (codes.length === 0) return '(?!)';
  const sorted = [...codes].sort((a, b) => a - b);
  const runs: [number, number][] = [];
  for (const one of sorted) {
    const last = runs.at(-1);
    if (last && last[1] === one - 1) last[1] = one;
    else runs.push([one, one]);
  }
  const written = runs.map(([from, to]) =>
    from === to ? character(from) : `${character(from)}-${character(to)}`,
  );
  return `[${written.join('')}]`;
}

function character(code: number): string {
  const text = String.fromCharCode(code);
  return /[a-z0-9]/i.test(text) ? text : `\\x${code.toString(16).padStart(2, '0')}`;
}

function escaped(text: string): string {
  return text.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&');
}

/** More of what may stand for anything take an engine that goes back too long, in the worst case. */
const MOST_WILD = 2;

/** Whether an engine of regular expressions that goes back and tries again may take more than a few passes. */
function isCostly({ host = [], path, search = [] }: PagePattern): boolean {
  const parts = [...host, ...path, ...search].filter(({ kind }) => kind !== 'text');
  return (
    parts.length > MOST_WILD ||
    [...host, ...path, ...search].some(
      ({ kind, modifier }) => kind === 'regexp' || modifier === '*' || modifier === '+',
    )
  );
}

/**
 * An automaton without free steps: whether each state accepts, and its steps, each a class of characters in the syntax of
 * regular expressions and the state that it leads to. The first state is 0.
 */
export type PageStates = readonly (readonly [
  accepts: 0 | 1,
  steps: readonly (readonly [characters: string, to: number])[],
])[];

/**
 * What matches a pattern's page texts where there is no more than an engine of regular expressions: one of these, or where
 * that could take long, the states of an automaton, which take one pass.
 */
export function pageProgram(source: string): string | PageStates {
  const pattern = readOrNothing(source);
  return pattern && isCostly(pattern) ? pageStates(pattern) : pageRegexp(source);
}

function pageStates(pattern: PagePattern): PageStates {
  const { start, steps, free, accepts } = new PatternAutomaton([pattern]);
  const closure = (state: number): Set<number> => {
    const members = new Set([state]);
    // A set that grows while it is walked is walked to its end.
    for (const member of members) for (const to of free[member]!) members.add(to);
    return members;
  };
  const numbers = new Map([[start, 0]]);
  const numberOf = (state: number): number => {
    const number = numbers.get(state) ?? numbers.size;
    numbers.set(state, number);
    return number;
  };
  const states: PageStates[number][] = [];
  for (const [state] of numbers) {
    const members = [...closure(state)];
    states.push([
      members.some((member) => accepts.has(member)) ? 1 : 0,
      members.flatMap((member) =>
        steps[member]!.map((step) => [stepSource(step), numberOf(step.to)] as const),
      ),
    ]);
  }
  return states;
}

function stepSource(step: Step): string {
  if ('one' in step) return setSource([step.one]);
  if ('among' in step) return setSource([...step.among]);
  return `[^${step.allBut.map(character).join('')}]`;
}
