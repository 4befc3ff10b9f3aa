import { partName } from '../../snapshot/index.js';
import { subject } from '../evidence.js';
import { defineCheck } from '../check.js';

const EVENT = '<script>tally("view");</script>';

export const viewUnnoticed = defineCheck({
  id: 'view-unnoticed',
  area: 'delivery',
  severity: 'warning',
  title: 'Should run on every view, but views go unnoticed',
  why: 'A single-page application shows new views without loading a page. If nothing notices, code that should run again does not, and only the first view is counted.',
  asks: ['hosts'],
  messages: {
    once: {
      title: '{part} runs only once per page load on {hosts}',
      advice:
        'It should run on every view, which only the one line notices. Deliver {hosts} by the one line, or have the site call the provider on every view.',
    },
  },
  given: 'The site gets everything by the gateway.',
  delivery: 'gateway',
  isFixable: false,
  wrong: [
    {
      name: 'View counter',
      parts: [
        { placement: 'body-end', code: `<script>window.tally ||= () => {};</script>${EVENT}`, per: 'view' },
      ],
    },
  ],
  right: [
    {
      name: 'View counter',
      parts: [{ placement: 'body-end', code: `<script>window.tally ||= () => {};</script>${EVENT}` }],
    },
  ],
  *run(set) {
    for (const part of set.running) {
      if (part.part.per !== 'view') continue;
      const hosts = set.waysOf(part.snippet).flatMap((way) => (way.delivery.seesViews ? [] : way.hosts));
      if (hosts.length === 0) continue;
      yield {
        about: 'view',
        message: 'once',
        params: { part: partName(part), hosts },
        subjects: [subject(part)],
        evidence: [],
      };
    }
  },
});
