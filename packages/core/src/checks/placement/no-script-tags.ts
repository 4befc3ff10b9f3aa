import { IS_MODULE } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';

export const noScriptTags = defineCheck({
  id: 'no-script-tags',
  area: 'placement',
  severity: 'error',
  title: 'Script or styles without their tags',
  why: 'Without <script> or <style> around it, browsers show the code as text and do not run it.',
  messages: {
    'no-tags': {
      title: '{part} has no <{tag}> tags',
      advice: 'Add <{tag}> before the code and </{tag}> after it.',
      fix: 'Add <{tag}> tags around the code.',
    },
  },
  roles: {
    text: 'visitors see this as text',
  },
  isFixable: true,
  wrong: [
    {
      name: 'Counter',
      parts: [{ placement: 'body-end', code: 'window.visits = (window.visits || 0) + 1;' }],
    },
  ],
  right: [
    {
      name: 'Counter',
      parts: [{ placement: 'body-end', code: '<script>window.visits = (window.visits || 0) + 1;</script>' }],
    },
  ],
  *run(set) {
    for (const part of set.running) {
      const { language, problems } = part.facts;
      if (language !== 'javascript' && language !== 'css') continue;
      const tag = language === 'css' ? 'style' : 'script';
      const isModule = tag === 'script' && IS_MODULE.test(part.code);
      const code = `<${tag}${isModule ? ' type="module"' : ''}>\n${part.code.trim()}\n</${tag}>`;
      yield {
        about: tag,
        message: 'no-tags',
        params: { part: partName(part), tag },
        subjects: [subject(part)],
        evidence: [evidence(part, { start: 0, end: part.code.length }, 'text')],
        // Code that ends its own tag, or cannot be read, needs a person.
        ...(problems.some(({ kind }) => kind === 'syntax') || part.code.toLowerCase().includes(`</${tag}`)
          ? {}
          : { fix: [{ kind: 'edit-code', part: part.key, code }] }),
      };
    }
  },
});
