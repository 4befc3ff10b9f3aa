import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';

const PLAIN: Readonly<{ [entity: string]: string }> = {
  lt: '<',
  gt: '>',
  quot: '"',
  '#39': "'",
  apos: "'",
  nbsp: ' ',
  amp: '&',
};

export const copiedAsText = defineCheck({
  id: 'copied-as-text',
  area: 'placement',
  severity: 'error',
  title: 'Code that was copied as text',
  why: 'Its tags are written as &lt; and &gt;, which happens when code is copied from a page that displays it. Browsers show such code instead of running it.',
  messages: {
    escaped: {
      title: '{part} was copied as text',
      advice:
        'Copy the code again with the provider’s copy button, or apply the fix to turn it back into tags.',
      fix: 'Turn &lt; and &gt; back into tags.',
    },
  },
  roles: {
    escaped: 'tags written as text',
  },
  explains: ['not-code', 'no-script-tags', 'contained', 'syntax-error'],
  isFixable: true,
  wrong: [
    {
      name: 'Counter',
      parts: [
        {
          placement: 'body-end',
          code: '&lt;script src="https://tallymast.example/count.js"&gt;&lt;/script&gt;',
        },
      ],
    },
  ],
  right: [
    {
      name: 'Counter',
      parts: [
        { placement: 'body-end', code: '<script async src="https://tallymast.example/count.js"></script>' },
      ],
    },
  ],
  *run(set) {
    for (const part of set.running) {
      const problem = part.facts.problems.find(({ kind }) => kind === 'escaped');
      if (!problem) continue;
      const code = withTags(part.code);
      yield {
        about: 'escaped',
        message: 'escaped',
        params: { part: partName(part) },
        subjects: [subject(part)],
        evidence: [evidence(part, { start: problem.range.start, end: problem.range.start + 40 }, 'escaped')],
        fix: [{ kind: 'edit-code', part: part.key, code }],
      };
    }
  },
});

/** Code that was copied as text, with its tags. */
export function withTags(code: string): string {
  return code.replace(/&(lt|gt|quot|#39|apos|nbsp|amp);/g, (_, name: string) => PLAIN[name]!);
}
