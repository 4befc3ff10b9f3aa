import { pieceMentions, type PieceMention } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import type { CheckedSet } from '../checked-set.js';
import { tieToAll } from '../tie.js';
import { defineCheck } from '../check.js';
import { evidence, subject } from '../evidence.js';
import type { ReadPart } from '../read-part.js';

const FIRST =
  '<!-- Slotwell, part 1 of 2 -->\n<script async src="https://slotwell.example/slots.js"></script>';
const SECOND = '<!-- Slotwell, part 2 of 2 -->\n<div id="slotwell-days"></div>';

export const halfInstall = defineCheck({
  id: 'half-install',
  area: 'placement',
  severity: 'warning',
  title: 'Half of an install, by its own account',
  why: 'Many providers give you two or three pieces of code. With one missing, the rest does nothing, and nobody can see why.',
  messages: {
    numbered: {
      title:
        '{part} is {own, plural, =0 {one of several pieces} other {piece #}}{own, plural, =0 {} other { of {pieces}}}, and the rest is missing',
      advice:
        'It says: “{words}”. Copy the missing piece from the provider’s page and add it to this snippet.',
    },
    next: {
      title: 'The instructions for {part} mention another piece, which is missing',
      advice:
        'They say: “{words}”. Copy the other piece from the provider’s page and add it to this snippet. If there is none, shorten the instructions.',
    },
  },
  roles: { words: 'mentions another piece' },
  isFixable: false,
  wrong: [{ name: 'Booking', parts: [{ placement: 'head-end', code: FIRST }] }],
  right: [
    {
      name: 'Booking',
      parts: [
        { placement: 'head-end', code: FIRST },
        { placement: 'body-end', code: SECOND },
      ],
    },
  ],
  ties: [tieToAll((part) => mentionsOf(part).length > 0)],
  *run(set) {
    const told = new Set<string>();
    for (const part of set.running) {
      const { snippet } = part;
      // Where its recipe is known, what is missing is told by that.
      if (told.has(snippet.key) || set.recipeOf(snippet)) continue;
      const missing = missingOf(set, part);
      if (!missing) continue;
      told.add(snippet.key);
      const { own, pieces, words, range, isCounted } = missing;
      yield {
        about: 'pieces',
        message: isCounted ? 'numbered' : 'next',
        params: { part: partName(part), own: own ?? 0, pieces, words },
        subjects: [subject(part)],
        evidence: 'isComment' in missing ? [evidence(part, range, 'words')] : [],
      };
    }
  },
});

type Mention = PieceMention & { readonly isComment?: true };

/** What a part says of pieces that are nowhere; undefined where all are there. */
function missingOf(set: CheckedSet, part: ReadPart): Mention | undefined {
  const own = mentionsOf(part);
  if (own.length === 0) return undefined;
  const together = set.near.running.filter(
    (other) => other.snippet === part.snippet || (other !== part && isSameInstall(set, part, other)),
  );
  const most = own.reduce((a, b) => (b.pieces > a.pieces ? b : a));
  if (together.length >= most.pieces) return undefined;
  // Pasted into one box, the pieces carry their numbers, or are at least as many.
  const numbers = new Set(
    together.flatMap((one) => mentionsOf(one).flatMap(({ own: number }) => number ?? [])),
  );
  if (numbers.size >= most.pieces) return undefined;
  if (numbers.size === 0 && solidPieces(together) >= most.pieces) return undefined;
  return most;
}

function mentionsOf({ part: { statement }, facts }: ReadPart): Mention[] {
  return [
    ...facts.mentions.map((mention) => ({ ...mention, isComment: true as const })),
    ...(statement === undefined ? [] : pieceMentions(statement)),
  ];
}

/** Whether another snippet looks like a piece of the same install, as happens where each was pasted by itself. */
function isSameInstall(set: CheckedSet, part: ReadPart, other: ReadPart): boolean {
  const hosts = new Set(part.facts.hosts);
  const accounts = new Set(part.facts.accounts.map(({ value }) => value));
  const names = new Set([...part.facts.defines, ...part.facts.uses].map(({ name }) => name));
  const ids = new Set([...part.facts.makes, ...part.facts.targets].map(({ id }) => id));
  const { facts } = other;
  return (
    (facts.hosts.some((host) => hosts.has(host)) ||
      facts.accounts.some(({ value }) => accounts.has(value)) ||
      [...facts.defines, ...facts.uses].some(({ name }) => names.has(name)) ||
      [...facts.makes, ...facts.targets].some(({ id }) => ids.has(id)) ||
      facts.needs.some(({ id }) => id !== undefined && ids.has(id)) ||
      part.facts.needs.some(({ id }) => facts.makes.some((made) => made.id === id))) &&
    set.meeting(part, other) !== undefined
  );
}

function solidPieces(parts: readonly ReadPart[]): number {
  return parts.reduce(
    (sum, { facts }) => sum + facts.pieces.filter(({ kind }) => kind !== 'comment' && kind !== 'text').length,
    0,
  );
}
