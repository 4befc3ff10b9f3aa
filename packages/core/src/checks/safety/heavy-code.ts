import { partName } from '../../snapshot/index.js';
import { subject } from '../evidence.js';
import { defineCheck } from '../check.js';

/** So much code is read with every page load, where a file of its own would be kept by the browser. */
const MAX_BYTES = 50_000;
const BYTES_PER_KB = 1_000;

const long = (length: number): string => `/* ${'deck '.repeat(length / 5)} */`;

export const heavyCode = defineCheck({
  id: 'heavy-code',
  area: 'safety',
  severity: 'advice',
  title: 'A lot of code in every page',
  why: 'Code written into the page is downloaded again with every page load. A separate file is downloaded once and cached.',
  messages: {
    heavy: {
      title: '{part} adds {kb, number} KB to every page it runs on',
      advice: 'Put the code in a file on your server and load it with <script defer src="…"></script>.',
    },
  },
  isFixable: false,
  wrong: [
    { name: 'Deck plan', parts: [{ placement: 'body-end', code: `<script>${long(60_000)}</script>` }] },
  ],
  right: [{ name: 'Deck plan', parts: [{ placement: 'body-end', code: `<script>${long(600)}</script>` }] }],
  *run(set) {
    for (const part of set.running) {
      if (part.facts.bytes <= MAX_BYTES) continue;
      yield {
        about: 'bytes',
        message: 'heavy',
        params: { part: partName(part), kb: Math.round(part.facts.bytes / BYTES_PER_KB) },
        subjects: [subject(part)],
        evidence: [],
      };
    }
  },
});
