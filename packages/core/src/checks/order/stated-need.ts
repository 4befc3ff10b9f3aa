import { partName } from '../../snapshot/index.js';
import { subject } from '../evidence.js';
import type { Check } from '../check.js';
import { whyMissing } from './why-missing.js';

export const statedNeed: Check = {
  id: 'stated-need',
  area: 'order',
  severity: 'error',
  title: 'Something that must come first, as somebody stated, and does not',
  why: 'Somebody wrote down that this snippet only works when another one has run before it. Visitors get it without that, or too early.',
  isFixable: true,
  wrong: [
    {
      name: 'Advert pixel',
      needs: ['cookie-question'],
      parts: [
        {
          placement: 'head-start',
          code: '<script async src="https://glintpixel.example/pixel.js?id=GP-40-77"></script>',
        },
      ],
    },
    {
      name: 'Cookie question',
      parts: [{ placement: 'head-end', code: '<script src="https://biscuitkeel.example/ask.js"></script>' }],
    },
  ],
  right: [
    {
      name: 'Cookie question',
      parts: [
        { placement: 'head-start', code: '<script src="https://biscuitkeel.example/ask.js"></script>' },
      ],
    },
    {
      name: 'Advert pixel',
      needs: ['cookie-question'],
      parts: [
        {
          placement: 'head-end',
          code: '<script async src="https://glintpixel.example/pixel.js?id=GP-40-77"></script>',
        },
      ],
    },
  ],
  *run(set) {
    for (const dependency of set.order.dependencies) {
      const { first, then, reason, verdict } = dependency;
      if (reason.kind !== 'stated' || verdict !== 'wrong') continue;
      const fix = set.order.fixFor(dependency);
      yield {
        about: `order ${first.snippet.key}`,
        title: `${partName(then)} needs ${partName(first)}, which comes later`,
        advice: `Move ${partName(first)} in front of ${partName(then)}.`,
        subjects: [subject(then), subject(first)],
        evidence: [],
        ...(fix ? { fix } : {}),
      };
    }
    const snippets = new Map(set.snapshot.snippets.map((snippet) => [snippet.key, snippet]));
    for (const snippet of set.snapshot.snippets) {
      if (snippet.state !== 'on') continue;
      for (const key of snippet.needs ?? []) {
        const needed = snippets.get(key);
        const problem = needed
          ? whyMissing(needed.state, set.outside(snippet, needed))
          : 'is not there any more';
        if (problem === undefined) continue;
        const name = `“${needed?.name ?? key}”`;
        yield {
          about: `there ${key}`,
          title: `“${snippet.name}” needs ${name}, which ${problem}`,
          advice: needed
            ? `Let ${name} run wherever “${snippet.name}” runs, or take it out of what must come first.`
            : `Take ${name} out of what must come first for “${snippet.name}”, or add it again.`,
          subjects: [
            { snippet: snippet.key, name: snippet.name },
            ...(needed ? [{ snippet: key, name: needed.name }] : []),
          ],
          evidence: [],
        };
      }
    }
  },
};
