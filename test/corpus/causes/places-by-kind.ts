import { at, atFoot, inHead, type CauseKind } from './cause.js';

const ASK = '<script src="https://biscuitkeel.example/consent.js"></script>';
const COUNTER = '<script async src="https://tallymast.example/count.js?id=TM-7731"></script>';
const CONTAINER =
  "<script>(function(w,d,l,i){w[l]=w[l]||[];w[l].push({event:'start'});var j=d.createElement('script');j.async=true;j.src='https://crateline.example/crate.js?id='+i;d.head.appendChild(j);})(window,document,'crateLayer','CR-20-3');</script>";

/** Where things of a kind belong, though nobody said so. */
export const PLACES_BY_KIND: CauseKind = {
  kind: 'places by kind',
  wrong: [
    {
      name: 'the question for consent comes after what it asks for',
      snippets: [inHead('Visit counter', COUNTER), atFoot('Cookie question', ASK)],
      check: 'late-by-kind',
      about: ['Cookie question', 'Visit counter'],
      says: /asks for consent/,
    },
    {
      name: 'a container stands at the end of the body',
      snippets: [atFoot('Container', CONTAINER)],
      check: 'late-by-kind',
      about: ['Container'],
      says: /tag container/,
    },
  ],
  clean: [
    {
      name: 'the question comes first',
      snippets: [at('head-start', 'Cookie question', ASK), inHead('Visit counter', COUNTER)],
    },
    {
      name: 'the counter waits for consent',
      snippets: [
        inHead('Visit counter', COUNTER, { limits: { consent: ['adverts'] } }),
        inHead('Cookie question', ASK),
      ],
    },
    { name: 'the container comes first', snippets: [at('head-start', 'Container', CONTAINER)] },
  ],
};
