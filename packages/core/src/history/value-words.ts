import { placementWords, type Placement } from '../insert/index.js';
import { limitsWords, listWords, pageRulesWords, type PageRules } from '../reach/index.js';
import type { Field } from '../fields/index.js';
import type { Snapshot } from '../snapshot/index.js';
import { HISTORY_TEXTS } from '../texts/history.js';
import { say } from '../texts/say.js';

const CODE_CHARACTERS = 80;

/** A value at a path, in words that are short enough for a row of a table. */
export function valueWords(path: string, value: unknown, site: Snapshot['site']): string {
  if (value === undefined || value === '') return HISTORY_TEXTS.nothing;
  const [first = '', second = '', third = ''] = path.split('/');
  switch (third === '' ? first : third) {
    case 'state':
      return HISTORY_TEXTS.states[value as keyof typeof HISTORY_TEXTS.states];
    case 'pages':
      return pageRulesWords(value as PageRules, site.pageGroups);
    case 'limits':
      return limitsWords({ [second]: value }, site).join(', ');
    case 'placement':
      return placementWords(value as Placement);
    case 'code':
      return codeWords(value as string);
    case 'per':
      return value === 'view' ? HISTORY_TEXTS.perView : HISTORY_TEXTS.perLoad;
    case 'parts':
      return say(HISTORY_TEXTS.parts, { count: (value as readonly unknown[]).length });
    case 'needs':
      return listWords(value as readonly string[]);
    case 'recipe': {
      const { key, version } = value as { readonly key: string; readonly version: number };
      return say(HISTORY_TEXTS.recipe, { key, version });
    }
    case 'pageGroups':
      return listWords((value as { readonly patterns: readonly string[] }).patterns);
    case 'fields':
      return fieldWords(value as Field);
    case 'consent':
      return HISTORY_TEXTS.purposes;
    default:
      return say(HISTORY_TEXTS.quoted, { value: value as string });
  }
}

/** The first line of some code, and how many there are. */
function codeWords(code: string): string {
  const lines = code.trimEnd().split('\n');
  const first = lines[0]!.trim();
  const start = first.length > CODE_CHARACTERS ? `${first.slice(0, CODE_CHARACTERS)}…` : first;
  return say(HISTORY_TEXTS.code, { start, count: lines.length });
}

function fieldWords({ value, staging, live }: Field): string {
  const values = [value, staging, live].filter((one) => one !== undefined && one !== '');
  return values.length > 0
    ? listWords(values.map((one) => say(HISTORY_TEXTS.quoted, { value: one! })))
    : HISTORY_TEXTS.nothing;
}
