import { fieldUses, fieldValue, fieldValueProblem, writtenValue, type FieldUse } from '../../fields/index.js';
import { ENVIRONMENT_NAMES } from '../../reach/index.js';
import { partName, type Snapshot } from '../../snapshot/index.js';
import { subject } from '../evidence.js';
import type { Check } from '../check.js';

export const fieldProblem: Check = {
  id: 'field-problem',
  area: 'activation',
  severity: 'error',
  title: 'A field that cannot be filled in',
  why: 'Where a field has no value that fits, visitors get “@{name}” as it is written: the code does not work, or reports to nobody.',
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
          title: `${partName(part)}: the field “${use.name}” ${problem.title}`,
          advice: problem.advice,
          subjects: [subject(part)],
          evidence: [],
        };
      }
    }
  },
};

function problemOf(
  { name, place }: FieldUse,
  { site }: Snapshot,
): { readonly title: string; readonly advice: string } | undefined {
  if (place.kind === 'refused')
    return {
      title: 'stands where nothing can safely be filled in',
      advice: `${place.why} Put it into a text, an attribute with quotes, or a string of the script.`,
    };
  const field = site.fields?.find((candidate) => candidate.name === name);
  if (!field)
    return {
      title: 'is not defined',
      advice: 'Define it in the site’s fields and give it a value, or write the value itself into the code.',
    };
  for (const environment of ENVIRONMENT_NAMES) {
    const value = fieldValue(field, environment);
    if (value === undefined || value === '')
      return { title: `has no value on ${environment}`, advice: 'Give it one in the site’s fields.' };
    const wrong = fieldValueProblem(field.type, value);
    if (wrong !== undefined)
      return { title: `cannot be “${value}”, its value on ${environment}`, advice: wrong };
    if (writtenValue(value, field.type, place) === undefined)
      return {
        title: `cannot be “${value}” where it stands`,
        advice:
          place.kind === 'url-start'
            ? 'An address begins there: only a whole address like https://www.example.com/ can stand there.'
            : 'Only letters, digits, dots and dashes can stand there; put the attribute’s value in quotes.',
      };
  }
  return undefined;
}
