import { hostOf, type Slot } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import type { CheckedSet } from '../checked-set.js';
import { tieToAll } from '../tie.js';
import { defineCheck } from '../check.js';
import { evidence, subject } from '../evidence.js';
import type { ReadPart } from '../read-part.js';

const SLOT = '<div class="slotwell-calendar" data-calendar="SW-2209"></div>';

export const nothingFills = defineCheck({
  id: 'nothing-fills',
  area: 'placement',
  severity: 'warning',
  title: 'An empty element is missing its script',
  why: 'The element only marks the place. Without its script, visitors see nothing there.',
  asks: ['survey'],
  messages: {
    nothing: {
      title: '{part} is an empty element, and nothing fills it',
      advice:
        'No snippet and no known page loads a script that mentions “{name}”. Copy the script from the provider’s page and add it to this snippet.',
    },
  },
  roles: { slot: 'stays empty' },
  isFixable: false,
  wrong: [{ name: 'Calendar', parts: [{ placement: 'body-end', code: SLOT }] }],
  right: [
    { name: 'Calendar', parts: [{ placement: 'body-end', code: SLOT }] },
    {
      name: 'Calendar script',
      parts: [
        { placement: 'body-end', code: '<script async src="https://slotwell.example/slots.js"></script>' },
      ],
    },
  ],
  ties: [tieToAll(({ facts }) => facts.slots.length > 0)],
  *run(set) {
    for (const part of set.running) {
      const slot = part.facts.slots[0];
      if (!slot || hasScript(set, part) || isFilled(set, part, slot)) continue;
      const isKnown = set.pageCode.isKnown;
      yield {
        about: slot.names[0] ?? 'slot',
        message: 'nothing',
        params: { part: partName(part), name: slot.names[0] ?? '' },
        subjects: [subject(part)],
        evidence: [evidence(part, slot.range, 'slot')],
        severity: slot.isSure || isKnown ? 'warning' : 'advice',
      };
    }
  },
});

/** Whether the snippet brings a script of its own, whatever that does. */
function hasScript(set: CheckedSet, { snippet }: ReadPart): boolean {
  return set.running.some(
    ({ snippet: other, facts }) =>
      other === snippet &&
      (facts.pieces.some(({ kind }) => kind === 'script') ||
        facts.loads.some(({ kind, noScript }) => kind === 'script' && !noScript)),
  );
}

/** What all sorts of elements are called. */
const GENERAL =
  /^(?:data|widget|embed|calendar|chat|badge|reviews?|feed|mount|booking|popup|player|form|captcha|container|wrapper|button|timetable|content|block|section)$/;
const MIN_WORD = 4;

/** Whether a script of another snippet, or of the pages, knows the element, or is from the same provider. */
function isFilled(set: CheckedSet, part: ReadPart, slot: Slot): boolean {
  const words = slot.names
    .flatMap((name) => name.toLowerCase().split(/[^a-z0-9]+/))
    .filter((word) => word.length >= MIN_WORD && !GENERAL.test(word));
  const knows = (code: string, addresses: readonly string[]): boolean =>
    slot.names.some((name) => code.includes(name)) ||
    words.some((word) => addresses.some((address) => address.toLowerCase().includes(word)));
  const scripts = ({ facts }: Pick<ReadPart, 'facts'>): string[] =>
    facts.loads.flatMap(({ kind, noScript, address }) => (kind === 'script' && !noScript ? [address] : []));
  const runs = ({ facts }: Pick<ReadPart, 'facts'>): boolean =>
    facts.pieces.some(({ kind }) => kind === 'script');
  return (
    set.near.running.some(
      (other) =>
        other.snippet !== part.snippet &&
        knows(runs(other) ? other.code : '', scripts(other)) &&
        set.meeting(part, other) !== undefined,
    ) ||
    set.pageCode.things.some(
      (thing) =>
        knows(thing.sighting.code, scripts(thing)) ||
        // The site's own scripts may fill what only its class names.
        (!slot.isSure && scripts(thing).some((address) => set.isOwnHost(hostOf(address)))),
    )
  );
}
