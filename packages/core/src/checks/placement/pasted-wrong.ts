import { partName } from '../../snapshot/index.js';
import { defineCheck } from '../check.js';
import { evidence, subject } from '../evidence.js';

const COUNTER = '<script async src="https://tallymast.example/count.js"></script>';

export const pastedWrong = defineCheck({
  id: 'pasted-wrong',
  area: 'placement',
  severity: 'error',
  title: 'Something went wrong when the code was pasted',
  why: 'Whatever surrounds code in a mail, a chat or a document is not code. Browsers show it to visitors, or stop reading there.',
  messages: {
    fence: {
      title: '{part} is wrapped in the backticks that chats and documents put around code',
      advice: 'Remove the lines of backticks (```) before and after the code.',
      fix: 'Remove the backticks.',
    },
    quoted: {
      title: '{part} has a > at the start of its lines, as in a quoted mail',
      advice: 'Remove the > at the start of each line.',
      fix: 'Remove the > signs.',
    },
    numbered: {
      title: '{part} has line numbers in its code',
      advice: 'Remove the number at the start of each line.',
      fix: 'Remove the line numbers.',
    },
    invisible: {
      title: '{part} has invisible characters in its code',
      advice: 'They come from a word processor, a chat or a PDF, and browsers trip over them. Remove them.',
      fix: 'Remove the invisible characters.',
    },
    'whole-page': {
      title: '{part} is a whole page',
      advice:
        'Your page has its own <html>, <head> and <title>. Keep only the piece that the provider asks you to add.',
      fix: 'Keep what is inside its head and body.',
    },
    'doubled-tags': {
      title: '{part} has one script tag inside another',
      advice: 'The code has its own <script> tags. Remove the ones around it.',
      fix: 'Remove the outer script tags.',
    },
    'end-tag-in-string': {
      title: '{part} ends its script inside a string',
      advice:
        'Browsers end a script at the first </script>, even inside quotes, and show the rest to visitors. Write <\\/script> there.',
      fix: 'Write <\\/script> in the string.',
    },
    'escaped-in-script': {
      title: '{part} has &lt; or &amp; where its script needs < or &',
      advice: 'An editor has encoded them. Change them back.',
      fix: 'Change &lt; and &amp; back.',
    },
  },
  roles: { mistake: 'does not belong here' },
  explains: [
    'syntax-error',
    'contained',
    'not-code',
    'words-around-code',
    'no-script-tags',
    'broken-data',
    'changes-page-for-all',
  ],
  isFixable: true,
  wrong: [{ name: 'Counter', parts: [{ placement: 'body-end', code: `\`\`\`html\n${COUNTER}\n\`\`\`` }] }],
  right: [{ name: 'Counter', parts: [{ placement: 'body-end', code: COUNTER }] }],
  *run(set) {
    for (const part of set.running)
      for (const { kind, range, repaired } of part.facts.pasteMistakes)
        yield {
          about: kind,
          message: kind,
          params: { part: partName(part) },
          subjects: [subject(part)],
          evidence: [evidence(part, range, 'mistake')],
          ...(repaired === undefined ? {} : { fix: [{ kind: 'edit-code', part: part.key, code: repaired }] }),
        };
  },
});
