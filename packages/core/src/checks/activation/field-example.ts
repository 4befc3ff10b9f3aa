import { ENVIRONMENT_NAMES } from '../../reach/index.js';
import { isLeftAtExample } from '../../fields/index.js';
import { fieldNames } from '../../snapshot/index.js';
import { defineCheck } from '../check.js';

const COUNTER = 'https://tallymast.example/count.js?id=';

export const fieldExample = defineCheck({
  id: 'field-example',
  area: 'activation',
  severity: 'error',
  title: 'A field still has the provider’s example',
  why: 'The example account belongs to nobody, or to somebody else, so your data does not reach you.',
  messages: {
    example: {
      title: '“{snippet}”: “{label}” is still the example, {example}',
      advice: 'Enter your own in the site’s field “{field}”.',
    },
    'example-on-staging': {
      title: '“{snippet}”: “{label}” is still the example, {example}, on staging',
      advice: 'Enter your own in the site’s field “{field}”.',
    },
  },
  isFixable: false,
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
  *run(set) {
    const { snapshot } = set;
    const fields = new Map((snapshot.site.fields ?? []).map((field) => [field.name, field]));
    for (const snippet of snapshot.snippets) {
      if (snippet.state !== 'on') continue;
      for (const name of fieldNames(snippet)) {
        const field = fields.get(name);
        if (field?.example === undefined) continue;
        const where = ENVIRONMENT_NAMES.filter(
          (environment) =>
            (snippet.limits?.environment ?? environment) === environment &&
            set.hasHost(environment) &&
            isLeftAtExample(field, environment),
        );
        if (where.length === 0) continue;
        const isLive = where.includes('live');
        yield {
          about: isLive ? name : `${name} on staging`,
          message: isLive ? 'example' : 'example-on-staging',
          params: { snippet: snippet.name, label: field.label, example: field.example, field: name },
          subjects: [{ snippet: snippet.key, name: snippet.name }],
          evidence: [],
          // Nobody but those who try things out sees staging.
          ...(isLive ? {} : { severity: 'warning' as const }),
        };
      }
    }
  },
});
