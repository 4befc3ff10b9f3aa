import { isFallback } from '../../order/index.js';
import { type CheckedSet } from '../checked-set.js';
import { exampleRecipe } from '../examples.js';
import { groups } from '../groups.js';
import { subject } from '../evidence.js';
import type { ReadPart } from '../read-part.js';
import type { Tie } from '../tie.js';
import { defineCheck } from '../check.js';
import { byAccount, sameAccount } from './same-account.js';
import { byOutline, sameCode } from './same-code.js';
import { byAddress, sameResource } from './same-resource.js';

const ONCE = exampleRecipe('tallymast-counter', 'Tallymast counter', {
  recognise: { hosts: ['tallymast.example'], addresses: [], globals: [] },
});

/** A recipe that may stand on a page only once. */
const byOnce: Tie = ({ own }, set) => {
  const recipe = set.recipeOf(own);
  return recipe?.repeatable === false ? [recipe.key] : [];
};

export const recipeTwice = defineCheck({
  id: 'recipe-twice',
  area: 'duplicates',
  severity: 'warning',
  title: 'Two installs of something that a page can have once',
  why: 'The provider allows only one per page. Two get in each other’s way, even with different accounts.',
  given: 'Both are installs of one recipe, and it says that a page may have it once.',
  recipes: [ONCE],
  asks: ['recipes'],
  messages: {
    twice: {
      title: '“{second}” and “{first}” are both a “{recipe}”',
      advice:
        'A page can have only one, and both run on {page}, for example. Switch one off, or run them on different pages.',
    },
  },
  isFixable: false,
  wrong: [
    {
      name: 'Counter',
      parts: [
        {
          placement: 'head-end',
          code: '<script async src="https://tallymast.example/a.js?id=TM-7731"></script>',
        },
      ],
    },
    {
      name: 'Old counter',
      parts: [
        {
          placement: 'head-end',
          code: '<script async src="https://tallymast.example/a.js?id=TM-1002"></script>',
        },
      ],
    },
  ],
  right: [
    {
      name: 'Counter',
      exclude: ['/news/*'],
      parts: [
        {
          placement: 'head-end',
          code: '<script async src="https://tallymast.example/a.js?id=TM-7731"></script>',
        },
      ],
    },
    {
      name: 'Old counter',
      include: ['/news/*'],
      parts: [
        {
          placement: 'head-end',
          code: '<script async src="https://tallymast.example/a.js?id=TM-1002"></script>',
        },
      ],
    },
  ],
  ties: [byOnce, byOutline, byAddress, byAccount],
  *run(set) {
    const mains = firstOfEach(set);
    let reported: Set<string> | undefined;
    for (const [first, ...others] of groups(mains, ({ snippet }) => {
      const recipe = set.recipeOf(snippet);
      return recipe?.repeatable === false ? recipe.key : undefined;
    }))
      for (const second of others) {
        const page = set.meeting(first!, second);
        if (page === undefined) continue;
        reported ??= pairsReported(set);
        if (reported.has(pairKey(first!.snippet.key, second.snippet.key))) continue;
        const { name, key } = set.recipeOf(first!.snippet)!;
        yield {
          about: key,
          message: 'twice',
          params: { second: second.snippet.name, first: first!.snippet.name, recipe: name, page },
          subjects: [subject(first!), subject(second)],
          evidence: [],
        };
      }
  },
});

/** The first part of each snippet, those for browsers without scripts aside: a snippet is one install. */
function firstOfEach({ near: { running } }: CheckedSet): ReadPart[] {
  const seen = new Set<string>();
  return running.filter((part) => {
    if (seen.has(part.snippet.key) || isFallback(part)) return false;
    seen.add(part.snippet.key);
    return true;
  });
}

/** What other checks tell more exactly is told once. */
function pairsReported(set: CheckedSet): Set<string> {
  return new Set(
    [sameCode, sameResource, sameAccount].flatMap((check) =>
      [...check.run!(set)].flatMap(({ subjects: [a, b] }) => (a && b ? [pairKey(a.snippet, b.snippet)] : [])),
    ),
  );
}

function pairKey(a: string, b: string): string {
  return [a, b].sort().join(' ');
}
