import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';

export const elementNotThere = defineCheck({
  id: 'element-not-there',
  area: 'placement',
  severity: 'error',
  title: 'A script that looks for an element too early',
  why: 'A script runs where it stands. What comes later in the page is not there yet, so the script stops with an error and does nothing.',
  messages: {
    'own-element': {
      title: '{part} looks for {selector} before it is there',
      advice: 'Put the script after the element that it looks for.',
    },
    'in-head': {
      title: '{part} looks for {selector} before it is there',
      advice: 'Place the code at the end of the body, where the whole page is there.',
      fix: 'Move it to the end of the body.',
    },
  },
  roles: {
    'before-element': 'the element stands after this',
    'in-head': 'the head has no such element',
  },
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
          ...(isOwn
            ? { message: 'own-element' }
            : {
                message: 'in-head',
                ...(part.facts.defines.length > 0
                  ? {}
                  : { fix: [{ kind: 'move-part', part: part.key, placement: 'body-end' }] }),
              }),
          params: { part: partName(part), selector: need.selector },
          subjects: [subject(part)],
          evidence: [evidence(part, need.range, isOwn ? 'before-element' : 'in-head')],
        };
      }
    }
  },
});
