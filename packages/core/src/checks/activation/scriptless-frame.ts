import { partName } from '../../snapshot/index.js';
import { defineCheck } from '../check.js';
import { evidence, subject } from '../evidence.js';

const frame = (more: string): string =>
  `<iframe src="https://slotwell.example/days" title="Days"${more}></iframe>`;

export const scriptlessFrame = defineCheck({
  id: 'scriptless-frame',
  area: 'activation',
  severity: 'warning',
  title: 'A frame whose scripts may not run',
  why: 'With the attribute “sandbox” a frame may do only what is listed there. Without “allow-scripts” a widget in it stays empty or does not react.',
  messages: {
    sandbox: {
      title: '{part} shows a frame that may not run its scripts',
      advice:
        'Write sandbox="allow-scripts allow-same-origin allow-forms allow-popups" where you trust the provider, or leave the attribute out as in its instructions.',
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
