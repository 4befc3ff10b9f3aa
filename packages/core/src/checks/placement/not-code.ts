import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';

const ADDRESS = /^(?:https?:)?\/\/\S+$/i;

export const notCode = defineCheck({
  id: 'not-code',
  area: 'placement',
  severity: 'warning',
  title: 'Text where code should be',
  why: 'What is neither a tag nor a script is shown to visitors as text. Often the wrong thing was copied: an address, an account number, or a sentence about the code.',
  messages: {
    text: {
      title: '{part} is only text',
      advice:
        'Copy the code itself, with its < and >. If visitors are to read this text, write <p> in front of it and </p> after it.',
    },
    address: {
      title: '{part} is only an address',
      advice:
        'Ask the provider’s page for the code to embed; an address is a link for people, and does nothing here.',
    },
    'script-address': {
      title: '{part} is only an address',
      advice: 'Write <script> around the address, or ask the provider’s page for the code.',
      fix: 'Make a script of it.',
    },
  },
  roles: {
    text: 'shown to visitors as text',
  },
  isFixable: true,
  wrong: [
    { name: 'Counter', parts: [{ placement: 'body-end', code: 'https://tallymast.example/count.js' }] },
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
      const text = part.code.trim();
      if (part.facts.language !== 'text' || text === '') continue;
      const isAddress = ADDRESS.test(text);
      const isScript = isAddress && /\.m?js(?:[?#]|$)/i.test(text);
      yield {
        about: isAddress ? 'address' : 'text',
        params: { part: partName(part) },
        subjects: [subject(part)],
        evidence: [evidence(part, { start: 0, end: part.code.length }, 'text')],
        ...(isScript
          ? {
              message: 'script-address',
              fix: [
                {
                  kind: 'edit-code',
                  part: part.key,
                  code: `<script async src="${text.replaceAll('"', '&quot;')}"></script>`,
                },
              ],
            }
          : { message: isAddress ? 'address' : 'text' }),
      };
    }
  },
});
