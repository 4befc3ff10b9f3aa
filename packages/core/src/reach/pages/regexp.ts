import { parseRegExpLiteral, type AST } from '@eslint-community/regexpp';
import { REACH_TEXTS } from '../../texts/reach.js';
import { say } from '../../texts/say.js';
import { PatternError } from './tokens.js';

/** A regular expression as an automaton needs it. Sets are of ASCII characters, as URLs are. */
export type RegexpNode =
  | { readonly kind: 'one-of'; readonly set: ReadonlySet<number> }
  | { readonly kind: 'sequence' | 'choice'; readonly parts: readonly RegexpNode[] }
  | { readonly kind: 'repeat'; readonly part: RegexpNode; readonly min: number; readonly max: number };

const ASCII = 128;
/** Characters of a pattern once what is repeated is written out. */
const LARGEST = 1_000;

/**
 * Reads a regular expression of a page pattern. Only what a regular language can say is taken, so that it is matched in
 * one pass over an address, whatever the expression and whatever the address.
 *
 * @throws PatternError for one that is none, that looks around or back, or that is too large
 */
export function readRegexp(source: string): RegexpNode {
  let pattern: AST.Pattern;
  try {
    pattern = parseRegExpLiteral(`/${source.replace(/(?<!\\)\//g, '\\/')}/u`).pattern;
  } catch {
    throw new PatternError(REACH_TEXTS.regexpInvalid);
  }
  const node = choice(pattern.alternatives);
  if (sizeOf(node) > LARGEST) throw new PatternError(REACH_TEXTS.regexpTooLarge);
  return node;
}

function choice(alternatives: readonly AST.Alternative[]): RegexpNode {
  return {
    kind: 'choice',
    parts: alternatives.map(({ elements }) => ({ kind: 'sequence', parts: elements.map(toNode) })),
  };
}

function toNode(element: AST.Element): RegexpNode {
  switch (element.type) {
    case 'Character':
    case 'CharacterSet':
    case 'CharacterClass':
      return { kind: 'one-of', set: charactersOf(element) };
    case 'Group':
    case 'CapturingGroup':
      return choice(element.alternatives);
    case 'Quantifier':
      return { kind: 'repeat', part: toNode(element.element), min: element.min, max: element.max };
    case 'Assertion':
    case 'Backreference':
      throw new PatternError(say(REACH_TEXTS.regexpLooks, { part: element.raw }));
    default:
      throw new PatternError(say(REACH_TEXTS.regexpUnknown, { part: element.raw }));
  }
}

type Characters = AST.Character | AST.CharacterSet | AST.CharacterClass | AST.CharacterClassElement;

function charactersOf(element: Characters): Set<number> {
  switch (element.type) {
    case 'Character':
      return filtered((code) => code === element.value);
    case 'CharacterClassRange':
      return filtered((code) => code >= element.min.value && code <= element.max.value);
    case 'CharacterSet':
      // The engine knows best what its own classes hold.
      return matching(new RegExp(`^${element.raw}$`, 'u'));
    case 'CharacterClass': {
      const sets = element.elements.map((one) => charactersOf(one as Characters));
      return filtered((code) => sets.some((set) => set.has(code)) !== element.negate);
    }
    default:
      throw new PatternError(say(REACH_TEXTS.regexpUnknown, { part: element.raw }));
  }
}

function filtered(holds: (code: number) => boolean): Set<number> {
  return new Set(Array.from({ length: ASCII }, (_, code) => code).filter(holds));
}

function matching(pattern: RegExp): Set<number> {
  return filtered((code) => pattern.test(String.fromCharCode(code)));
}

/** Characters that it takes at most, counted so often as an automaton writes them. */
function sizeOf(node: RegexpNode): number {
  switch (node.kind) {
    case 'one-of':
      return 1;
    case 'sequence':
    case 'choice':
      return node.parts.reduce((sum, part) => sum + sizeOf(part), 1);
    case 'repeat':
      return sizeOf(node.part) * Math.max(1, node.min, node.max === Infinity ? node.min + 1 : node.max);
  }
}

/** All sets of characters in it. */
export function* setsOf(node: RegexpNode): Generator<ReadonlySet<number>> {
  if (node.kind === 'one-of') yield node.set;
  else for (const part of node.kind === 'repeat' ? [node.part] : node.parts) yield* setsOf(part);
}
