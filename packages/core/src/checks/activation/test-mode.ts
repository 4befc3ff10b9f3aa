import { partName } from '../../snapshot/index.js';
import { defineCheck } from '../check.js';
import { evidence, subject } from '../evidence.js';
import { marksOfKind } from './of-facts.js';

export const testMode = defineCheck({
  id: 'test-mode',
  area: 'activation',
  severity: 'warning',
  title: 'Test mode is still on',
  why: 'In test mode most tools record nothing, or show visitors things only you should see.',
  asks: ['hosts'],
  messages: {
    test: {
      title: '{part} seems to be in test mode',
      advice: 'Switch test mode off before you publish to the live site, or limit it to staging.',
    },
    address: {
      title: '{part} uses {value}, which is for testing',
      advice:
        'Nothing visitors do there reaches you, or it does not load at all. Use the provider’s live address, or limit it to staging.',
    },
    'own-staging': {
      title: '{part} uses {value}, a staging host of this site, on the live site',
      advice: 'Use the live host, or an address without a host, which works on both.',
    },
  },
  roles: {
    mark: '{value}',
  },
  isFixable: false,
  wrong: [
    {
      name: 'Offer',
      parts: [{ placement: 'body-end', code: '<script>window.nudgelet = { testMode: true };</script>' }],
    },
  ],
  right: [
    {
      name: 'Offer',
      parts: [{ placement: 'body-end', code: '<script>window.nudgelet = { testMode: false };</script>' }],
    },
  ],
  *run(set) {
    const onLive = set.running.filter(({ snippet }) => snippet.limits?.environment !== 'staging');
    yield* marksOfKind({ running: onLive }, 'test', (part, { value }) => ({
      message: isHost(value) ? 'address' : 'test',
      params: { part: partName(part), value },
      role: 'mark',
    }));
    const staging = set.hostsOf('staging');
    if (staging.length === 0) return;
    for (const part of onLive)
      for (const host of staging) {
        const start = part.code.indexOf(`//${host}`) + 2;
        if (start < 2 || /[\w.-]/.test(part.code[start + host.length] ?? '')) continue;
        yield {
          about: host,
          message: 'own-staging' as const,
          params: { part: partName(part), value: host },
          subjects: [subject(part)],
          evidence: [evidence(part, { start, end: start + host.length }, 'mark' as const)],
        };
      }
  },
});

/** A mark that is the host of an address. */
function isHost(value: string): boolean {
  return /^(?:localhost|\[::1\]|[a-z0-9-]+(?:\.[a-z0-9-]+)+)$/i.test(value);
}
