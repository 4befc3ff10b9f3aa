import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';

const ADDRESS = /^(?:https?:)?\/\/\S+$/i;

export const notCode = defineCheck({
  id: 'not-code',
  area: 'placement',
  severity: 'warning',
  title: 'Text where code should be',
  why: 'Anything that is neither a tag nor a script appears on the page as text. Often the wrong thing was copied: an address, an account number, or a sentence about the code.',
  messages: {
    text: {
      title: '{part} is just text',
      advice:
        'Copy the code itself, including its < and >. If visitors are meant to read this text, put <p> before it and </p> after it.',
    },
    address: {
      title: '{part} is just an address',
      advice:
        'Get the embed code from the provider’s page. An address is a link for people and does nothing here.',
    },
    'script-address': {
      title: '{part} is just an address',
      advice: 'Load the address with a <script> tag, or get the code from the provider’s page.',
      fix: 'Load it with a <script> tag.',
    },
  },
  roles: {
    text: 'visitors see this as text',
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
