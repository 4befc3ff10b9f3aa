import { memoizeByObject } from '../../memoize/by-object.js';
import { versionedFile, type Load } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { groups } from '../groups.js';
import type { ReadPart } from '../read-part.js';
import { defineCheck } from '../check.js';

interface Loaded {
  readonly part: ReadPart;
  readonly load: Load;
  readonly library: string;
  readonly version: string;
}

export const twoVersions = defineCheck({
  id: 'two-versions',
  area: 'duplicates',
  severity: 'warning',
  title: 'Two versions of one library',
  why: 'Each version replaces the other, so one of the two snippets works with a version that it was not made for. Visitors wait for both.',
  messages: {
    'two-versions': {
      title: '{first} and {second} load two versions of “{library}”',
      advice:
        'One loads {version}, the other {other}. Let both load the same one, after asking both providers which they need.',
    },
  },
  roles: {
    first: 'version {version}',
    second: 'version {other}',
  },
  isFixable: false,
  wrong: [
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
  *run(set) {
    const loads = set.running.flatMap((part) =>
      part.facts.loads.flatMap((load): Loaded[] => {
        const file = load.kind === 'script' && !load.noScript ? fileOf(load) : undefined;
        return file ? [{ part, load, ...file }] : [];
      }),
    );
    for (const [first, ...others] of groups(loads, ({ library }) => library)) {
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
});

const fileOf = memoizeByObject(({ address }: Load) => versionedFile(address));
