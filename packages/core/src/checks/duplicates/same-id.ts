import { skeletonIds } from '../../contain/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { groups } from '../groups.js';
import { byId } from '../ties/by-id.js';
import { defineCheck } from '../check.js';

export const sameId = defineCheck({
  id: 'same-id',
  area: 'duplicates',
  severity: 'warning',
  title: 'Two elements with one id',
  why: 'Scripts that look for the id find only the first element, so the second widget stays empty or the first one is filled twice.',
  asks: ['survey'],
  messages: {
    'same-id': {
      title: '{first} and {second} both use the id “{id}”',
      advice: 'Give one of them another id, in the element and in the script that looks for it.',
    },
    'page-has': {
      title: '{first} uses the id “{id}”, which the page already has',
      advice:
        'On {page}, for example, the page has an element with this id. Give the one in {first} another id, in the element and in the script that looks for it.',
    },
  },
  roles: {
    first: 'first here',
    second: 'again here',
  },
  isFixable: false,
  pages: {
    '/fares':
      '<!DOCTYPE html><html><head><title>Fares</title></head><body><p id="prices">Fares</p></body></html>',
  },
  wrong: [
    { name: 'Prices', parts: [{ placement: 'body-end', code: '<div id="prices"></div>' }] },
    { name: 'Form', parts: [{ placement: 'body-end', code: '<div id="formhatch"></div>' }] },
    { name: 'Second form', parts: [{ placement: 'body-end', code: '<section id="formhatch"></section>' }] },
  ],
  right: [
    { name: 'Form', parts: [{ placement: 'body-end', code: '<div id="formhatch-news"></div>' }] },
    { name: 'Second form', parts: [{ placement: 'body-end', code: '<div id="formhatch-offers"></div>' }] },
  ],
  ties: [byId],
  *run(set) {
    const made = set.near.running.flatMap((part) =>
      part.facts.makes.filter(({ by }) => by === 'tag').map((element) => ({ part, element })),
    );
    for (const [first, ...others] of groups(made, ({ element }) => element.id)) {
      for (const second of others) {
        if (first!.part.code === second.part.code && first!.part !== second.part) continue;
        if (set.meeting(first!.part, second.part) === undefined) continue;
        yield {
          about: `${first!.element.id} ${first!.part.key} ${second.part.key}`,
          message: 'same-id',
          params: { id: first!.element.id, first: partName(first!.part), second: partName(second.part) },
          subjects:
            first!.part === second.part
              ? [subject(first!.part)]
              : [subject(first!.part), subject(second.part)],
          evidence: [
            evidence(first!.part, first!.element.range, 'first'),
            evidence(second.part, second.element.range, 'second'),
          ],
        };
      }
    }
    for (const { part, element } of made) {
      const page = set.skeletonsOf(part).find((skeleton) => skeletonIds(skeleton).has(element.id));
      if (page)
        yield {
          about: `${element.id} ${part.key}`,
          message: 'page-has',
          params: { id: element.id, first: partName(part), page: page.path },
          subjects: [subject(part)],
          evidence: [evidence(part, element.range, 'first')],
        };
    }
  },
});
