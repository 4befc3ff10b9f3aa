import { partName } from '../../snapshot/index.js';
import { subject } from '../evidence.js';
import type { Check } from '../check.js';
import { evidenceOf } from './evidence-of.js';

export const elementMadeLater: Check = {
  id: 'element-made-later',
  area: 'order',
  severity: 'error',
  title: 'Code that looks for an element which another snippet brings further down',
  why: 'A script that runs while the page is read sees only what stands above it. An element that comes later is not there yet, and the script finds nothing.',
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
  *run(set) {
    for (const dependency of set.order.dependencies) {
      const { first, then, reason, verdict } = dependency;
      // In the head no element is there at all; that is a finding of its own.
      if (reason.kind !== 'element' || verdict !== 'wrong' || then.isInHead) continue;
      const fix = set.order.fixFor(dependency);
      yield {
        about: reason.id,
        title: `${partName(then)} looks for #${reason.id} before ${partName(first)} brings it`,
        advice: `Move ${partName(first)} in front of ${partName(then)}, or ${partName(then)} behind ${partName(first)}.`,
        subjects: [subject(then), subject(first)],
        evidence: evidenceOf(dependency),
        ...(fix ? { fix } : {}),
      };
    }
  },
};
