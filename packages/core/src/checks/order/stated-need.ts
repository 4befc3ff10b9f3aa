import { partName } from '../../snapshot/index.js';
import { subject } from '../evidence.js';
import { byStatement } from '../ties/by-statement.js';
import { defineCheck } from '../check.js';
import { NO_MOVES, ORDER_FIX } from '../set-order.js';
import { whyMissing } from './why-missing.js';

export const statedNeed = defineCheck({
  id: 'stated-need',
  area: 'order',
  severity: 'error',
  title: 'Something that was said to come first does not',
  why: 'Somebody noted that this snippet only works after another one. Visitors get it without that one, or too early.',
  messages: {
    later: {
      title: '{user} needs {maker}, which comes later',
      advice: 'Move {maker} above {user}.',
      fix: ORDER_FIX,
    },
    off: {
      title: '“{snippet}” needs “{needed}”, which is switched off',
      advice: 'Run “{needed}” wherever “{snippet}” runs, or remove it from the list of what must come first.',
    },
    archived: {
      title: '“{snippet}” needs “{needed}”, which is archived',
      advice: 'Run “{needed}” wherever “{snippet}” runs, or remove it from the list of what must come first.',
    },
    'other-pages': {
      title: '“{snippet}” needs “{needed}”, which does not run on {page}',
      advice: 'Run “{needed}” wherever “{snippet}” runs, or remove it from the list of what must come first.',
    },
    gone: {
      title: '“{snippet}” needs “{needed}”, which no longer exists',
      advice: 'Remove “{needed}” from what must come first for “{snippet}”, or add it again.',
    },
  },
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
  ties: [byStatement],
  *runOnWhole(set) {
    for (const dependency of set.order.dependencies) {
      const { first, then, reason, verdict } = dependency;
      if (reason.kind !== 'stated' || verdict !== 'wrong') continue;
      const fix = set.order.fixFor(dependency);
      yield {
        about: `order ${first.snippet.key}`,
        message: 'later',
        params: { user: partName(then), maker: partName(first), ...NO_MOVES, ...fix?.params },
        subjects: [subject(then), subject(first)],
        evidence: [],
        ...(fix ? { fix: fix.fix } : {}),
      };
    }
  },
  *run(set) {
    for (const snippet of set.snapshot.snippets) {
      if (snippet.state !== 'on') continue;
      for (const key of snippet.needs ?? []) {
        const needed = set.snippets.get(key)?.own;
        const missing = needed && whyMissing(needed.state, set.outside(snippet, needed));
        if (needed && !missing) continue;
        yield {
          about: `there ${key}`,
          message: missing?.message ?? 'gone',
          params: { snippet: snippet.name, needed: needed?.name ?? key, page: missing?.page ?? '' },
          subjects: [
            { snippet: snippet.key, name: snippet.name },
            ...(needed ? [{ snippet: key, name: needed.name }] : []),
          ],
          evidence: [],
        };
      }
    }
  },
});
