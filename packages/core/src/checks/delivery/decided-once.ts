import { decidedOnce, decidedOnceWords } from '../../deliver/index.js';
import { defineCheck } from '../check.js';

const CHAT = '<script async src="https://parlanook.example/chat.js"></script>';

export const decidedOnceCheck = defineCheck({
  id: 'decided-once',
  area: 'delivery',
  severity: 'warning',
  title: 'Depends on something that files cannot know',
  why: 'A file is the same for every visitor. Anything that depends on the device, the hour or consent is decided once for everybody, when the file is written.',
  asks: ['hosts'],
  messages: {
    files: {
      title: '“{snippet}” runs {limits}, which the files of {hosts} cannot check',
      advice:
        'The files are written for a desktop, without consent, at the time of writing. Deliver {hosts} by the one line, or have the code itself check.',
    },
  },
  given: 'The site’s pages are files, written by Pragmatica.',
  delivery: 'folder',
  isFixable: false,
  wrong: [
    {
      name: 'Harbour chat',
      limits: { devices: ['phone'] },
      parts: [{ placement: 'body-end', code: CHAT }],
    },
  ],
  right: [{ name: 'Harbour chat', parts: [{ placement: 'body-end', code: CHAT }] }],
  *run(set) {
    for (const snippet of set.snapshot.snippets) {
      if (snippet.state !== 'on') continue;
      for (const { delivery, hosts } of set.waysOf(snippet)) {
        const dimensions = decidedOnce(snippet, delivery);
        if (dimensions.length === 0) continue;
        const limits = decidedOnceWords(snippet, dimensions, set.snapshot.site);
        yield {
          about: delivery.key,
          message: 'files',
          params: { snippet: snippet.name, limits, hosts },
          subjects: [{ snippet: snippet.key, name: snippet.name }],
          evidence: [],
        };
      }
    }
  },
});
