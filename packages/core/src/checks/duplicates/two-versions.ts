import { memoizeByObject } from '../../memoize/by-object.js';
import { versionedFile, type Load } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import type { CheckedSet } from '../checked-set.js';
import { evidence, subject } from '../evidence.js';
import { groups } from '../groups.js';
import type { ReadPart } from '../read-part.js';
import { tieOfParts } from '../tie.js';
import { defineCheck } from '../check.js';

interface Loaded {
  readonly part: ReadPart;
  readonly load: Load;
  readonly library: string;
  readonly version: string;
}

const byLibrary = tieOfParts((part) => filesOf([part]).map(({ library }) => library));

export const twoVersions = defineCheck({
  id: 'two-versions',
  area: 'duplicates',
  severity: 'warning',
  title: 'Two versions of one library',
  why: 'Each version replaces the other, so one of the two snippets runs with a version it was not made for. Visitors download both.',
  messages: {
    'two-versions': {
      title: '{first} and {second} load two versions of “{library}”',
      advice:
        'One loads {version}, the other {other}. Ask both providers which they need, and load a single one.',
    },
    'page-loads': {
      title: '{first} and the page itself load two versions of “{library}”',
      advice:
        'One loads {version}, and {page}, for example, loads {other} itself. Ask the provider whether {first} can use the one that the page loads.',
    },
  },
  roles: {
    first: 'version {version}',
    second: 'version {other}',
  },
  isFixable: false,
  pages: {
    '/fares':
      '<!DOCTYPE html><html><head><title>Fares</title><script src="/lib/halyard-1.2.0.js"></script></head><body><p>Fares</p></body></html>',
  },
  wrong: [
    {
      name: 'Ropes',
      parts: [
        { placement: 'head-end', code: '<script src="https://files.example/halyard-2.0.0.js"></script>' },
      ],
    },
    {
      name: 'Slider',
      parts: [
        {
          placement: 'head-end',
          code: '<script src="https://files.example/deckhand-2.4.1.min.js"></script>',
        },
      ],
    },
    {
      name: 'Gallery',
      parts: [
        { placement: 'head-end', code: '<script src="https://files.example/deckhand-3.0.0.js"></script>' },
      ],
    },
  ],
  right: [
    {
      name: 'Slider',
      parts: [
        { placement: 'head-end', code: '<script src="https://files.example/deckhand-3.0.0.js"></script>' },
      ],
    },
    {
      name: 'Sails',
      parts: [
        { placement: 'head-end', code: '<script src="https://files.example/sails-2.4.1.js"></script>' },
      ],
    },
  ],
  ties: [byLibrary],
  *run(set) {
    for (const [first, ...others] of groups(filesOf(set.near.running), ({ library }) => library)) {
      const second = others.find(
        ({ part, version }) =>
          version !== first!.version && part !== first!.part && set.meeting(first!.part, part) !== undefined,
      );
      if (!second) continue;
      yield {
        about: first!.library,
        message: 'two-versions',
        params: {
          first: partName(first!.part),
          second: partName(second.part),
          library: first!.library,
          version: first!.version,
          other: second.version,
        },
        subjects: [subject(first!.part), subject(second.part)],
        evidence: [
          evidence(first!.part, first!.load.range, 'first'),
          evidence(second.part, second.load.range, 'second'),
        ],
      };
    }
  },
  *runOnWhole(set) {
    if (set.pageCode.things.length > 0) yield* besidePages(set, filesOf(set.running));
  },
});

/** The files whose versions are known that parts load. */
function filesOf(parts: readonly ReadPart[]): Loaded[] {
  return parts.flatMap((part) =>
    part.facts.loads.flatMap((load): Loaded[] => {
      const file = load.kind === 'script' && !load.noScript ? fileOf(load) : undefined;
      return file ? [{ part, load, ...file }] : [];
    }),
  );
}

/** Versions that the pages load themselves. */
function* besidePages({ pageCode }: CheckedSet, loads: readonly Loaded[]) {
  for (const thing of pageCode.things)
    for (const load of thing.facts.loads) {
      const file = load.kind === 'script' && !load.noScript ? fileOf(load) : undefined;
      if (!file) continue;
      const ours = loads.find(({ library, version }) => library === file.library && version !== file.version);
      const page = ours && pageCode.pageWith(thing, ours.part.snippet);
      if (!ours || page === undefined) continue;
      yield {
        about: `${file.library} ${ours.part.key}`,
        message: 'page-loads' as const,
        params: {
          first: partName(ours.part),
          library: file.library,
          version: ours.version,
          other: file.version,
          page,
        },
        subjects: [subject(ours.part)],
        evidence: [evidence(ours.part, ours.load.range, 'first')],
      };
    }
}

const fileOf = memoizeByObject(({ address }: Load) => versionedFile(address));
