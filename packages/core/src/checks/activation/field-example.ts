import { fieldNames, isLeftAtExample } from '../../fields/index.js';
import type { Check } from '../types.js';

const COUNTER = 'https://tallymast.example/count.js?id=';

export const fieldExample: Check = {
  id: 'field-example',
  area: 'activation',
  severity: 'error',
  title: 'A field left at the provider’s example',
  why: 'The example’s account is nobody’s, or somebody else’s: what should reach you does not.',
  wrong: [
    {
      name: 'Counter',
      parts: [{ placement: 'head-end', code: `<script async src="${COUNTER}@{unset_account}"></script>` }],
    },
  ],
  right: [
    {
      name: 'Counter',
      parts: [{ placement: 'head-end', code: `<script async src="${COUNTER}@{counter_account}"></script>` }],
    },
  ],
  *run({ snapshot }) {
    const fields = new Map((snapshot.site.fields ?? []).map((field) => [field.name, field]));
    for (const snippet of snapshot.snippets) {
      if (snippet.state !== 'on') continue;
      for (const name of fieldNames(snippet)) {
        const field = fields.get(name);
        if (field?.example === undefined || !isLeftAtExample(field, 'live')) continue;
        yield {
          about: name,
          title: `“${snippet.name}”: “${field.label}” is still the example, ${field.example}`,
          advice: `Write your own into the field “${name}” of the site.`,
          subjects: [{ snippet: snippet.key, name: snippet.name }],
          evidence: [],
        };
      }
    }
  },
};
