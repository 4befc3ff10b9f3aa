import { partName } from '../../snapshot/index.js';
import { defineCheck } from '../check.js';
import { evidence, subject } from '../evidence.js';

const COUNTER = '<script async src="https://tallymast.example/count.js"></script>';

export const pastedWrong = defineCheck({
  id: 'pasted-wrong',
  area: 'placement',
  severity: 'error',
  title: 'Something that came along, or went wrong, in pasting',
  why: 'What stands around code in a mail, a chat or a document is no code. Browsers show it to visitors, or stop reading there.',
  messages: {
    fence: {
      title: '{part} has the marks around it that chats and documents set code in',
      advice: 'Remove the lines of backticks (```) before and after the code.',
      fix: 'Remove the backticks.',
    },
    quoted: {
      title: '{part} has a > in front of its lines, as mail programs quote',
      advice: 'Remove the > at the start of each line.',
      fix: 'Remove the > of the quotation.',
    },
    numbered: {
      title: '{part} has line numbers in its code',
      advice: 'Remove the number in front of each line.',
      fix: 'Remove the line numbers.',
    },
    invisible: {
      title: '{part} has invisible characters in its code',
      advice:
        'They come from a word processor, a chat or a PDF, and browsers stumble over them. Remove them.',
      fix: 'Remove the invisible characters.',
    },
    'whole-page': {
      title: '{part} is a whole page',
      advice:
        'Your page has its own <html>, <head> and <title>. Keep only the piece that the provider wants added.',
      fix: 'Keep what is inside its head and body.',
    },
    'doubled-tags': {
      title: '{part} has its script tags twice, one inside the other',
      advice: 'The code has its own <script> tags. Remove the ones around it.',
      fix: 'Remove the outer script tags.',
    },
    'end-tag-in-string': {
      title: '{part} ends its script inside a string',
      advice:
        'Browsers end a script at the first </script>, also within quotes; the rest is shown to visitors. Write <\\/script> there.',
      fix: 'Write <\\/script> in the string.',
    },
    'escaped-in-script': {
      title: '{part} has &lt; or &amp; where its script needs < or &',
      advice: 'An editor turned them into references. Turn them back.',
      fix: 'Turn them back.',
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
