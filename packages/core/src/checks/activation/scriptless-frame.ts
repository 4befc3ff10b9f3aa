import { partName } from '../../snapshot/index.js';
import { defineCheck } from '../check.js';
import { evidence, subject } from '../evidence.js';

const frame = (more: string): string =>
  `<iframe src="https://slotwell.example/days" title="Days"${more}></iframe>`;

export const scriptlessFrame = defineCheck({
  id: 'scriptless-frame',
  area: 'activation',
  severity: 'warning',
  title: 'A frame that may not run scripts',
  why: 'With the “sandbox” attribute a frame can do only what is listed there. Without “allow-scripts”, a widget in it stays empty or does not respond.',
  messages: {
    sandbox: {
      title: '{part} shows a frame that may not run its scripts',
      advice:
        'If you trust the provider, write sandbox="allow-scripts allow-same-origin allow-forms allow-popups", or remove the attribute if its instructions do not have it.',
    },
  },
  roles: { frame: 'without allow-scripts' },
  isFixable: false,
  wrong: [{ name: 'Booking', parts: [{ placement: 'body-end', code: frame(' sandbox') }] }],
  right: [{ name: 'Booking', parts: [{ placement: 'body-end', code: frame('') }] }],
  *run(set) {
    for (const part of set.running)
      for (const [at, { range }] of part.facts.scriptlessFrames.entries())
        yield {
          about: `frame ${at}`,
          message: 'sandbox',
          params: { part: partName(part) },
          subjects: [subject(part)],
          evidence: [evidence(part, range, 'frame')],
        };
  },
});
