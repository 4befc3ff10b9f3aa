import { filesLoadedBy } from '../../survey/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { exampleFile } from '../examples.js';
import { defineCheck } from '../check.js';

const OLD = 'https://tallymast.example/old.js';
const load = (address: string): string => `<script async src="${address}"></script>`;
/** Not Found, Gone (RFC 9110, 15.5.5 and 15.5.11): others may be meant for programs only, or pass. */
const GONE: readonly number[] = [404, 410];

export const fileGone = defineCheck({
  id: 'file-gone',
  area: 'activation',
  severity: 'warning',
  title: 'A file does not exist',
  why: 'The code loads a file that its server does not have or will not give. Nothing happens, and only the browser’s console says why.',
  asks: ['files'],
  messages: {
    gone: {
      title: '{part} loads a file that does not exist',
      advice:
        'The server of {file} answered with {status} when the last survey asked. Copy the code from the provider again: the address is wrong, or the provider has moved the file.',
    },
  },
  roles: { loads: 'loads it' },
  given: 'The server answers the first address with 404.',
  files: [exampleFile(OLD, { status: 404, isRead: false, bytes: 0 })],
  isFixable: false,
  wrong: [{ name: 'Counter', parts: [{ placement: 'head-end', code: load(OLD) }] }],
  right: [{ name: 'Counter', parts: [{ placement: 'head-end', code: load(OLD.replace('old', 'count')) }] }],
  *run(set) {
    for (const part of set.running)
      for (const { address, range } of filesLoadedBy(part.facts)) {
        const status = set.files.find(address)?.status ?? 0;
        if (!GONE.includes(status)) continue;
        yield {
          about: address,
          message: 'gone',
          params: { part: partName(part), file: address, status },
          subjects: [subject(part)],
          evidence: [evidence(part, range, 'loads')],
        };
      }
  },
});
