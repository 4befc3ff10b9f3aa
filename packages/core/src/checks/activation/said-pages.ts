import { pagesOfStatement } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { defineCheck } from '../check.js';
import { subject } from '../evidence.js';

const PIXEL = '<script async src="https://glintpixel.example/booked.js?id=GP-4417"></script>';

export const saidPages = defineCheck({
  id: 'said-pages',
  area: 'activation',
  severity: 'warning',
  title: 'Code runs on other pages than its provider says',
  why: 'Code for a confirmation page tells the provider that somebody has bought or booked. On every page, it counts each visit as a sale.',
  messages: {
    'only-some': {
      title: '{part} is meant for {pages} only, but runs on every page',
      advice: 'Its provider says: “{statement}” Limit it to those pages.',
    },
    all: {
      title: '{part} is meant for every page, but runs on some',
      advice: 'Its provider says: “{statement}” If you want that, run it on all pages.',
    },
  },
  isFixable: false,
  wrong: [
    {
      name: 'Advert pixel',
      parts: [{ placement: 'head-end', code: PIXEL, statement: 'Only on the confirmation page.' }],
    },
  ],
  right: [
    {
      name: 'Advert pixel',
      include: ['/booking/done'],
      parts: [{ placement: 'head-end', code: PIXEL, statement: 'Only on the confirmation page.' }],
    },
  ],
  *run(set) {
    for (const part of set.running) {
      const { statement } = part.part;
      const said = statement === undefined ? undefined : pagesOfStatement(statement);
      if (!said) continue;
      const { include, exclude } = part.snippet.pages;
      const isEverywhere = include.every((rule) => rule === '/*') && exclude.length === 0;
      if (said.kind === 'only' ? !isEverywhere : include.every((rule) => rule === '/*')) continue;
      yield {
        about: said.kind,
        message: said.kind === 'only' ? 'only-some' : 'all',
        params: { part: partName(part), pages: said.words, statement: statement! },
        subjects: [subject(part)],
        evidence: [],
        ...(said.kind === 'only' ? {} : { severity: 'advice' as const }),
      };
    }
  },
});
