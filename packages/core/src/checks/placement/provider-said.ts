import { placementOfStatement } from '../../facts/index.js';
import { isAnchor, placementWords, type NamedPlacement } from '../../insert/index.js';
import { allowedPlacements } from '../../order/index.js';
import { partName } from '../../snapshot/index.js';
import { subject } from '../evidence.js';
import { defineCheck } from '../check.js';

export const providerSaid = defineCheck({
  id: 'provider-said',
  area: 'placement',
  severity: 'warning',
  title: 'Code is not where its provider says',
  why: 'Providers know where their code works. Anywhere else it may start too late, count too little or not show at all, and their support will ask about this first.',
  messages: {
    elsewhere: {
      title: '{part} is {place}, but its provider wants it {said}',
      advice: 'The provider says: “{statement}” Move it there.',
      fix: 'Move it {to}.',
    },
    'cannot-move': {
      title: '{part} is {place}, but its provider wants it {said}',
      advice:
        'The provider says: “{statement}” It shows something or needs the page, so it cannot simply be moved. Ask the provider whether this is the right piece.',
    },
  },
  isFixable: true,
  wrong: [
    {
      name: 'Counter',
      parts: [
        {
          placement: 'body-end',
          statement: 'Put this as high in the head as possible.',
          code: '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>',
        },
      ],
    },
  ],
  right: [
    {
      name: 'Counter',
      parts: [
        {
          placement: 'head-start',
          statement: 'Put this as high in the head as possible.',
          code: '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>',
        },
      ],
    },
  ],
  *run(set) {
    for (const part of set.running) {
      const { statement, placement } = part.part;
      const said = statement === undefined ? undefined : placementOfStatement(statement);
      // An anchor was chosen by somebody who knows the page.
      if (said === undefined || isAnchor(placement) || isAsSaid(said, placement)) continue;
      const canStandThere = allowedPlacements(part).includes(said);
      yield {
        about: said,
        params: {
          part: partName(part),
          place: placementWords(placement),
          said: placementWords(said),
          to: placementWords(said).replace(/^at /, 'to '),
          statement: statement!,
        },
        subjects: [subject(part)],
        evidence: [],
        ...(canStandThere
          ? { message: 'elsewhere', fix: [{ kind: 'move-part', part: part.key, placement: said }] }
          : { message: 'cannot-move' }),
      };
    }
  },
});

/** Earlier in the head than wanted does no harm. */
function isAsSaid(said: NamedPlacement, placement: NamedPlacement): boolean {
  return said === placement || (said === 'head-end' && placement === 'head-start');
}
