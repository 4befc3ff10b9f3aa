import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';
import { withTags } from './copied-as-text.js';

/** Fewer words may be meant: a label beside a button. */
const MIN_WORDS = 4;

export const wordsAroundCode = defineCheck({
  id: 'words-around-code',
  area: 'placement',
  severity: 'error',
  title: 'A message pasted along with the code',
  why: 'Code often arrives in a message. The words around it appear on the page as text, and in the head they end the head early.',
  messages: {
    words: {
      title: '{part} includes the message that the code came in',
      advice: 'Keep only the code: from its first < to its last >.',
      fix: 'Keep only the code.',
    },
  },
  roles: {
    text: 'visitors see this as text',
  },
  explains: ['contained'],
  isFixable: true,
  wrong: [
    {
      name: 'Offer',
      parts: [
        {
          placement: 'body-end',
          code: 'Hi! Please add this to your website:\n\n<script async src="https://nudgelet.example/pop.js"></script>\n\nLet me know if you need help',
        },
      ],
    },
  ],
  right: [
    {
      name: 'Offer',
      parts: [
        { placement: 'body-end', code: '<script async src="https://nudgelet.example/pop.js"></script>' },
      ],
    },
  ],
  *run(set) {
    for (const part of set.running) {
      // Around code that was copied as text, too: that is put right first.
      const isEscaped = part.facts.problems.some(({ kind }) => kind === 'escaped');
      const { code, facts } = isEscaped ? set.memory.read(withTags(part.code)) : part.read;
      const { pieces, language } = facts;
      if (language !== 'markup' || pieces.some(({ kind }) => kind === 'content' || kind === 'frame'))
        continue;
      const texts = pieces.filter(({ kind }) => kind === 'text');
      const words = texts.map(({ range }) => code.slice(range.start, range.end)).join(' ');
      if (texts.length === pieces.length || (words.match(/\p{L}{2,}/gu) ?? []).length < MIN_WORDS) continue;
      const kept = pieces
        .filter(({ kind }) => kind !== 'text')
        .map(({ range }) => code.slice(range.start, range.end))
        .join('\n');
      yield {
        about: 'words',
        message: 'words',
        params: { part: partName(part) },
        subjects: [subject(part)],
        evidence: isEscaped ? [] : texts.map(({ range }) => evidence(part, range, 'text')),
        ...(isEscaped ? {} : { fix: [{ kind: 'edit-code', part: part.key, code: kept }] }),
      };
    }
  },
});
