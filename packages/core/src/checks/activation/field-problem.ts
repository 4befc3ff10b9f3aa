import { fieldUses, fieldValue, fieldValueProblem, writtenValue, type FieldUse } from '../../fields/index.js';
import { ENVIRONMENT_NAMES } from '../../reach/index.js';
import { partName, type Snapshot } from '../../snapshot/index.js';
import type { Params } from '../../texts/index.js';
import { subject } from '../evidence.js';
import { defineCheck } from '../check.js';

export const fieldProblem = defineCheck({
  id: 'field-problem',
  area: 'activation',
  severity: 'error',
  title: 'A field that cannot be filled in',
  why: 'Where a field has no valid value, visitors get “@{name}” as written: the code does not work, or reports to nobody.',
  messages: {
    'no-safe-place': {
      title: '{part}: the field “{field}” is in a place where it cannot safely be filled in',
      advice: '{why} Put it in text, in a quoted attribute, or in a string in a script.',
    },
    undefined: {
      title: '{part}: the field “{field}” is not defined',
      advice: 'Define it in the site’s fields and give it a value, or write the value itself into the code.',
    },
    empty: {
      title: '{part}: the field “{field}” has no value on {environment}',
      advice: 'Set it in the site’s fields.',
    },
    'wrong-value': {
      title: '{part}: the field “{field}” cannot be “{value}”, its value on {environment}',
      advice: '{why}',
    },
    'not-an-address': {
      title: '{part}: the field “{field}” cannot be “{value}” in that place',
      advice: 'An address starts there, so it needs a full address like https://www.example.com/.',
    },
    'not-a-word': {
      title: '{part}: the field “{field}” cannot be “{value}” in that place',
      advice: 'Only letters, digits, dots and hyphens work there. Put quotes around the attribute’s value.',
    },
  },
  isFixable: false,
  wrong: [
    {
      name: 'Counter',
      parts: [
        {
          placement: 'head-end',
          code: '<script async src="https://tallymast.example/count.js?id=@{account}"></script>',
        },
      ],
    },
  ],
  right: [
    {
      name: 'Counter',
      parts: [
        {
          placement: 'head-end',
          code: '<script async src="https://tallymast.example/count.js?id=@{counter_account}"></script>',
        },
      ],
    },
  ],
  *run(set) {
    for (const part of set.parts) {
      if (!part.isOn) continue;
      const reported = new Set<string>();
      for (const use of fieldUses(set.sourceOf(part.key))) {
        const problem = problemOf(use, set.snapshot);
        if (problem === undefined || reported.has(use.name)) continue;
        reported.add(use.name);
        yield {
          about: use.name,
          message: problem.message,
          params: {
            part: partName(part),
            field: use.name,
            why: '',
            environment: '',
            value: '',
            ...problem.params,
          },
          subjects: [subject(part)],
          evidence: [],
        };
      }
    }
  },
});

interface FieldProblem {
  readonly message: 'no-safe-place' | 'undefined' | 'empty' | 'wrong-value' | 'not-an-address' | 'not-a-word';
  readonly params: Partial<Params<'why' | 'environment' | 'value'>>;
}

function problemOf({ name, place }: FieldUse, { site }: Snapshot): FieldProblem | undefined {
  if (place.kind === 'refused') return { message: 'no-safe-place', params: { why: place.why } };
  const field = site.fields?.find((candidate) => candidate.name === name);
  if (!field) return { message: 'undefined', params: {} };
  for (const environment of ENVIRONMENT_NAMES) {
    const value = fieldValue(field, environment);
    if (value === undefined || value === '') return { message: 'empty', params: { environment } };
    const why = fieldValueProblem(field.type, value);
    if (why !== undefined) return { message: 'wrong-value', params: { value, environment, why } };
    if (writtenValue(value, field.type, place) === undefined)
      return { message: place.kind === 'url-start' ? 'not-an-address' : 'not-a-word', params: { value } };
  }
  return undefined;
}
