import type { Definition, Reset } from '../../facts/index.js';
import { happensBefore, type Precedence } from '../../order/index.js';
import { partName } from '../../snapshot/index.js';
import type { CheckedSet } from '../checked-set.js';
import { byName } from '../ties/by-name.js';
import { defineCheck } from '../check.js';
import { evidence, subject } from '../evidence.js';
import { makerName } from '../page-code.js';
import type { ReadPart } from '../read-part.js';
import { definers, type Definer } from './definitions.js';

const FILLS =
  "<script>window.tallyLayer = window.tallyLayer || []; tallyLayer.push({ event: 'start' });</script>";

export const thrownAway = defineCheck({
  id: 'thrown-away',
  area: 'order',
  severity: 'error',
  title: 'A queue or settings overwritten by another snippet',
  why: 'When another snippet starts over under the same name, whatever the first one left there for its script is lost: calls, accounts and settings. There is no error to see.',
  asks: ['survey'],
  messages: {
    queue: {
      title: '{second} overwrites what {first} put into “{name}”',
      advice:
        'Keep what is there: write “window.{name} = window.{name} || …” in {second} instead of starting over.',
      fix: 'Have {second} keep what is in “{name}”.',
    },
    settings: {
      title: '{second} overwrites the settings “{name}” of {first}',
      advice:
        'Only the later ones count. Put them all into one of the two snippets, or add to what is there with Object.assign.',
    },
    race: {
      title: '{second} may overwrite what {first} put into “{name}”',
      advice: 'Keep what is there: write “window.{name} = window.{name} || …” in {second}.',
      fix: 'Have {second} keep what is in “{name}”.',
    },
    'of-page': {
      title: '{second} overwrites what the page put into “{name}”',
      advice:
        'On {page}, for example, {first} fills it earlier. Keep what is there: write “window.{name} = window.{name} || …” in {second}.',
      fix: 'Have {second} keep what is in “{name}”.',
    },
  },
  explainsPairs: ['two-definers'],
  roles: { fills: 'fills “{name}”', resets: 'starts “{name}” over' },
  isFixable: true,
  wrong: [
    { name: 'Container', parts: [{ placement: 'head-start', code: FILLS }] },
    {
      name: 'Fares event',
      parts: [
        {
          placement: 'head-end',
          code: "<script>window.tallyLayer = []; tallyLayer.push({ event: 'fares' });</script>",
        },
      ],
    },
  ],
  right: [
    { name: 'Container', parts: [{ placement: 'head-start', code: FILLS }] },
    { name: 'Fares event', parts: [{ placement: 'head-end', code: FILLS.replace('start', 'fares') }] },
  ],
  ties: [byName],
  *run(set) {
    const made = definers(set);
    for (const part of set.running)
      for (const reset of part.facts.resets) {
        const filler = fillerOf(set, made.get(reset.name) ?? [], part, reset);
        if (filler) {
          const { part: first, definition } = filler.filler;
          const params = { first: partName(first), second: partName(part), name: reset.name, page: '' };
          const found = {
            about: `${reset.name} ${first.key}`,
            params,
            subjects: [subject(first), subject(part)],
            evidence: [evidence(first, definition.range, 'fills'), evidence(part, reset.range, 'resets')],
          };
          if (isSettings(part, reset)) yield { ...found, message: 'settings' };
          else if (filler.before === 'always') yield { ...found, message: 'queue', ...keeping(part, reset) };
          else yield { ...found, message: 'race', severity: 'warning', ...keeping(part, reset) };
          continue;
        }
        yield* ofPage(set, part, reset);
      }
  },
});

/** What is filled before by another snippet; what surely comes before, where there is such. */
function fillerOf(
  set: CheckedSet,
  all: readonly Definer[],
  part: ReadPart,
  reset: Reset,
): { filler: Definer; before: Precedence } | undefined {
  const found = all
    .filter(
      ({ part: other, definition }) =>
        other.isOn &&
        other.snippet !== part.snippet &&
        definition.from === undefined &&
        other.code !== part.code &&
        isFilled(definition) &&
        set.meeting(other, part) !== undefined,
    )
    .map((filler) => ({
      filler,
      before: happensBefore(
        {
          when: filler.definition.when,
          position: filler.part.position,
          placement: filler.part.part.placement,
        },
        { when: reset.when, position: part.position, placement: part.part.placement },
      ),
    }));
  return found.find(({ before }) => before === 'always') ?? found.find(({ before }) => before === 'maybe');
}

/** Whether it holds things for later: a list, settings, or a function that keeps its calls. */
function isFilled({ what, isStub }: Definition): boolean {
  return what === 'array' || what === 'object' || (isStub && what === 'function');
}

/** What the pages themselves have put there before. */
function* ofPage(set: CheckedSet, part: ReadPart, reset: Reset) {
  for (const definer of set.pageCode.definersOf(reset.name)) {
    const page = set.pageCode.pageWith(definer.thing, part.snippet);
    if (page === undefined || !definer.isStub || definer.file !== undefined) continue;
    if (set.pageCode.comesBefore(definer, part, reset.when) !== 'always') continue;
    yield {
      about: `${reset.name} page`,
      message: 'of-page' as const,
      params: { first: makerName(definer), second: partName(part), name: reset.name, page },
      subjects: [subject(part)],
      evidence: [evidence(part, reset.range, 'resets' as const)],
      ...keeping(part, reset),
    };
    return;
  }
}

/** Settings are written anew as a whole: what was there cannot simply be kept. */
function isSettings({ facts }: ReadPart, { name, range }: Reset): boolean {
  return facts.settings.some(
    (one) => one.name === name && one.range.start >= range.start && one.keys.length > 0,
  );
}

const AFTER_NAME = /^[^=;]{0,80}=\s*(\[\s*\]|\{\s*\}|new\s+Array\s*(?:\(\s*\))?)/;

/** Code that keeps what is there where it is empty that it begins with; `{}` where that cannot be written simply. */
function keeping({ key, code }: ReadPart, { name, range }: Reset) {
  const match = AFTER_NAME.exec(code.slice(range.start));
  if (!match || !/^[A-Za-z_$][\w$]*$/.test(name)) return {};
  const at = range.start + match[0].length - match[1]!.length;
  const kept = `${code.slice(0, at)}window.${name} || ${match[1]!}${code.slice(at + match[1]!.length)}`;
  return { fix: [{ kind: 'edit-code', part: key, code: kept }] as const };
}
