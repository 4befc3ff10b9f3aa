import { anchorName, isAnchor } from '../../insert/index.js';
import { partName } from '../../snapshot/index.js';
import { subject } from '../evidence.js';
import { defineCheck } from '../check.js';

/** So many pages are named; more are counted. */
const NAMED_PAGES = 3;

export const noPlace = defineCheck({
  id: 'no-place',
  area: 'placement',
  severity: 'warning',
  title: 'The element to insert it at is missing',
  why: 'Code that goes at a certain element needs a page that has it. On other pages visitors get nothing, and no message says so.',
  asks: ['survey'],
  messages: {
    'some-pages': {
      title: '{part} has nowhere to go on {more, plural, =0 {{pages}} other {{first} and # more}}',
      advice: '{reason} Limit it to pages that have {element}, or choose another place.',
    },
    'no-page': {
      title: '{part} has nowhere to go on any of its known pages',
      advice: '{reason} Limit it to pages that have {element}, or choose another place.',
    },
  },
  isFixable: false,
  wrong: [
    {
      name: 'Booking button',
      include: ['/fares'],
      parts: [
        {
          placement: { anchor: 'booking-widget', side: 'inside' },
          code: '<script async src="https://slotwell.example/slots.js"></script>',
        },
      ],
    },
  ],
  right: [
    {
      name: 'Booking button',
      include: ['/booking'],
      parts: [
        {
          placement: { anchor: 'booking-widget', side: 'inside' },
          code: '<script async src="https://slotwell.example/slots.js"></script>',
        },
      ],
    },
  ],
  pages: {
    '/fares': '<!DOCTYPE html><html><head></head><body><main>Fares</main></body></html>',
    '/booking': '<!DOCTYPE html><html><head></head><body><div id="booking-widget"></div></body></html>',
  },
  *run(set) {
    for (const part of set.running) {
      const { placement } = part.part;
      if (!isAnchor(placement)) continue;
      const outcomes = set.onPages(part);
      const without = outcomes.filter(({ kind }) => kind === 'left-out');
      const [first] = without;
      if (first?.kind !== 'left-out') continue;
      const named = without.slice(0, NAMED_PAGES).map(({ path }) => path);
      yield {
        about: anchorName(placement),
        message: without.length === outcomes.length ? 'no-page' : 'some-pages',
        params: {
          part: partName(part),
          reason: first.message,
          element: anchorName(placement),
          pages: named,
          first: named.join(', '),
          more: without.length - named.length,
        },
        subjects: [subject(part)],
        evidence: [],
      };
    }
  },
});
