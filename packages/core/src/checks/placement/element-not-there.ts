import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import type { Check } from '../check.js';

export const elementNotThere: Check = {
  id: 'element-not-there',
  area: 'placement',
  severity: 'error',
  title: 'A script that looks for an element too early',
  why: 'A script runs where it stands. What comes later in the page is not there yet, so the script stops with an error and does nothing.',
  isFixable: true,
  wrong: [
    {
      name: 'Wide form',
      parts: [
        {
          placement: 'head-end',
          code: "<script>document.getElementById('newsletter').className = 'wide';</script>",
        },
      ],
    },
  ],
  right: [
    {
      name: 'Wide form',
      parts: [
        {
          placement: 'body-end',
          code: "<script>document.getElementById('newsletter').className = 'wide';</script>",
        },
      ],
    },
    {
      name: 'Waits',
      parts: [
        {
          placement: 'head-end',
          code: "<script>addEventListener('DOMContentLoaded', function () { document.getElementById('newsletter').className = 'wide'; });</script>",
        },
      ],
    },
  ],
  *run(set) {
    for (const part of set.running) {
      for (const need of part.facts.needs) {
        if (need.when !== 'parse' || need.isGuarded || need.own === 'before') continue;
        if (need.own === undefined && !part.isInHead) continue;
        const isOwn = need.own === 'after';
        yield {
          about: need.selector,
          title: `${partName(part)} looks for ${need.selector} before it is there`,
          advice: isOwn
            ? 'Put the script after the element that it looks for.'
            : 'Place the code at the end of the body, where the whole page is there.',
          subjects: [subject(part)],
          evidence: [
            evidence(
              part,
              need.range,
              isOwn ? 'the element stands after this' : 'the head has no such element',
            ),
          ],
          ...(isOwn || part.facts.defines.length > 0
            ? {}
            : {
                fix: {
                  title: 'Move it to the end of the body.',
                  changes: [{ kind: 'move-part' as const, part: part.key, placement: 'body-end' as const }],
                },
              }),
        };
      }
    }
  },
};
