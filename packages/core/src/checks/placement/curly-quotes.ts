import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';

export const curlyQuotes = defineCheck({
  id: 'curly-quotes',
  area: 'placement',
  severity: 'error',
  title: 'Curly quotes in code',
  why: 'Word processors and mail programs turn straight quotes into “ ”. Code does not understand these, so addresses and settings come out wrong and nothing happens.',
  messages: {
    quotes: {
      title: '{part} has curly quotes in its code',
      advice: 'Copy the code again without going through a word processor, or apply the fix.',
      fix: 'Replace them with straight quotes.',
    },
  },
  roles: {
    quote: 'a curly quote',
  },
  explains: ['syntax-error', 'contained', 'insecure-address'],
  isFixable: true,
  wrong: [
    {
      name: 'Counter',
      parts: [{ placement: 'body-end', code: '<script src=“https://tallymast.example/count.js”></script>' }],
    },
  ],
  right: [
    { name: 'Notice', parts: [{ placement: 'body-end', code: '<p>The “Kittiwake” sails at 07:15.</p>' }] },
  ],
  *run(set) {
    for (const part of set.running) {
      const problem = part.facts.problems.find(({ kind }) => kind === 'curly-quotes');
      if (!problem) continue;
      // In tags and scripts only: texts may have them. What was copied as text is all tags and scripts.
      const isEscaped = part.facts.problems.some(({ kind }) => kind === 'escaped');
      const code = isEscaped
        ? withPlainQuotes(part.code)
        : part.code.replace(/<[a-z][^>]*>|<script\b[^]*?<\/script>/gi, withPlainQuotes);
      yield {
        about: 'quotes',
        message: 'quotes',
        params: { part: partName(part) },
        subjects: [subject(part)],
        evidence: [evidence(part, { start: problem.range.start, end: problem.range.start + 40 }, 'quote')],
        ...(code === part.code ? {} : { fix: [{ kind: 'edit-code', part: part.key, code }] }),
      };
    }
  },
});

function withPlainQuotes(code: string): string {
  return code.replace(/[“”„]/g, '"').replace(/[‘’]/g, "'");
}
