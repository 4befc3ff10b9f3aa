import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';
import { NO_MOVES, ORDER_FIX } from '../set-order.js';
import { ELEMENT_ROLES } from './evidence-of.js';

export const elementMadeLater = defineCheck({
  id: 'element-made-later',
  area: 'order',
  severity: 'error',
  title: 'Code looks for an element that another snippet adds further down',
  why: 'A script that runs while the page loads sees only what is above it. An element further down does not exist yet, so the script finds nothing.',
  messages: {
    later: {
      title: '{user} looks for #{name} before {maker} adds it',
      advice: 'Move {maker} above {user}, or {user} below {maker}.',
      fix: ORDER_FIX,
    },
  },
  roles: {
    ...ELEMENT_ROLES,
  },
  isFixable: true,
  wrong: [
    {
      name: 'Offer text',
      parts: [
        {
          placement: 'body-end',
          code: "<script>document.getElementById('offer').textContent = 'Two for one';</script>",
        },
      ],
    },
    { name: 'Offer box', parts: [{ placement: 'body-end', code: '<div id="offer"></div>' }] },
  ],
  right: [
    { name: 'Offer box', parts: [{ placement: 'body-end', code: '<div id="offer"></div>' }] },
    {
      name: 'Offer text',
      parts: [
        {
          placement: 'body-end',
          code: "<script>document.getElementById('offer').textContent = 'Two for one';</script>",
        },
      ],
    },
  ],
  *runOnWhole(set) {
    for (const dependency of set.order.dependencies) {
      const { first, then, reason, verdict } = dependency;
      // In the head no element is there at all; that is a finding of its own.
      if (reason.kind !== 'element' || verdict !== 'wrong' || then.isInHead) continue;
      const fix = set.order.fixFor(dependency);
      yield {
        about: reason.id,
        message: 'later',
        params: {
          user: partName(then),
          maker: partName(first),
          name: reason.id,
          ...NO_MOVES,
          ...fix?.params,
        },
        subjects: [subject(then), subject(first)],
        evidence: [evidence(then, reason.need.range, 'seeks'), evidence(first, reason.made.range, 'brings')],
        ...(fix ? { fix: fix.fix } : {}),
      };
    }
  },
});
