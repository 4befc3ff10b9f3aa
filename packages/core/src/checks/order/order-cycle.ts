import { dependencyWords } from '../../order/index.js';
import { partName } from '../../snapshot/index.js';
import { subject } from '../evidence.js';
import { defineCheck } from '../check.js';
import { ELEMENT_ROLES, NAME_ROLES, evidenceOf } from './evidence-of.js';

export const orderCycle = defineCheck({
  id: 'order-cycle',
  area: 'order',
  severity: 'error',
  title: 'Snippets that each need the other first',
  why: 'When two snippets each need the other to run first, no order works: whichever comes first stops with an error.',
  messages: {
    cycle: {
      title: '{parts} need each other first',
      advice: '{because}. Remove one of them, or have it wait for an event.',
    },
  },
  roles: {
    ...NAME_ROLES,
    ...ELEMENT_ROLES,
  },
  isFixable: false,
  wrong: [
    {
      name: 'Fares',
      parts: [{ placement: 'head-end', code: '<script>window.fares = { boat: boats.next };</script>' }],
    },
    {
      name: 'Boats',
      parts: [{ placement: 'head-end', code: '<script>window.boats = { next: fares.boat };</script>' }],
    },
  ],
  right: [
    {
      name: 'Boats',
      parts: [{ placement: 'head-end', code: "<script>window.boats = { next: '10:40' };</script>" }],
    },
    {
      name: 'Fares',
      parts: [{ placement: 'head-end', code: '<script>window.fares = { boat: boats.next };</script>' }],
    },
  ],
  *runOnWhole(set) {
    const { dependencies } = set.order;
    if (dependencies.every(({ verdict }) => verdict === 'fine')) return;
    for (const cycle of set.order.cycles) {
      const within = dependencies.filter(
        ({ first, then, isByOrder }) => isByOrder && cycle.includes(first) && cycle.includes(then),
      );
      // That a script reads settings is told by names alone: too little to say that no order is right.
      if (within.some(({ reason }) => reason.kind === 'settings')) continue;
      const parts = [...cycle].sort((a, b) => a.position - b.position);
      yield {
        about: 'cycle',
        message: 'cycle',
        params: { parts: parts.map(partName), because: within.map(dependencyWords).join('; ') },
        subjects: parts.map(subject),
        evidence: within.flatMap(evidenceOf),
      };
    }
  },
});
