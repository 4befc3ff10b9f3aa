import { decidedOnce, decidedOnceWords } from '../../deliver/index.js';
import { defineCheck } from '../check.js';

const CHAT = '<script async src="https://parlanook.example/chat.js"></script>';

export const decidedOnceCheck = defineCheck({
  id: 'decided-once',
  area: 'delivery',
  severity: 'warning',
  title: 'Depends on what files cannot ask',
  why: 'A file is the same for every visitor. Whatever depends on the device, the hour or the visitor’s consent is settled once for all of them, when the file is written.',
  asks: ['hosts'],
  messages: {
    files: {
      title: '“{snippet}” runs {limits}, and the files of {hosts} cannot ask',
      advice:
        'In the files it is settled for a desktop, without consent, at the hour at which they are written. Deliver {hosts} by the one line, or let the code itself ask.',
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
