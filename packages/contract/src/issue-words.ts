import { formatMessage } from '@pragmatica/core';
import { z } from 'zod';
import { ISSUE_TEXTS } from './texts/issue-texts.js';

type RawIssue = Parameters<z.core.$ZodErrorMap>[0];

/** What is said of an issue where the schema does not say it itself. */
function issueWords(issue: RawIssue): string {
  switch (issue.code) {
    case 'invalid_type':
      return issue.input === undefined ? ISSUE_TEXTS.required : typeWords(issue.expected);
    case 'too_small':
      return smallWords(issue.origin, Number(issue.minimum));
    case 'too_big':
      return largeWords(issue.origin, Number(issue.maximum));
    case 'invalid_value':
      return valueWords(issue.values);
    case 'invalid_format':
      return formatWords(issue.format);
    case 'invalid_union':
      return issue.input === undefined ? ISSUE_TEXTS.required : ISSUE_TEXTS.noForm;
    default:
      return ISSUE_TEXTS.form;
  }
}

function typeWords(type: string): string {
  const { wanted } = ISSUE_TEXTS;
  return Object.hasOwn(wanted, type)
    ? wanted[type as keyof typeof wanted]
    : formatMessage(ISSUE_TEXTS.wantedOther, { type });
}

function smallWords(origin: string, limit: number): string {
  if (origin === 'string')
    return limit <= 1 ? ISSUE_TEXTS.textEmpty : formatMessage(ISSUE_TEXTS.textShort, { count: limit });
  return isCounted(origin)
    ? formatMessage(ISSUE_TEXTS.listShort, { count: limit })
    : formatMessage(ISSUE_TEXTS.numberSmall, { limit });
}

function largeWords(origin: string, limit: number): string {
  if (origin === 'string') return formatMessage(ISSUE_TEXTS.textLong, { count: limit });
  return isCounted(origin)
    ? formatMessage(ISSUE_TEXTS.listLong, { count: limit })
    : formatMessage(ISSUE_TEXTS.numberLarge, { limit });
}

function isCounted(origin: string): boolean {
  return origin === 'array' || origin === 'set' || origin === 'map';
}

function valueWords(values: readonly unknown[]): string {
  const [only, ...more] = values.map(String);
  if (only !== undefined && more.length === 0) return formatMessage(ISSUE_TEXTS.exactly, { value: only });
  return formatMessage(ISSUE_TEXTS.oneOf, { values: values.map(String).join(', ') });
}

function formatWords(format: string): string {
  if (format === 'url') return ISSUE_TEXTS.address;
  if (format === 'email') return ISSUE_TEXTS.email;
  return format === 'datetime' ? ISSUE_TEXTS.moment : ISSUE_TEXTS.form;
}

// Has Zod say everything in our words, wherever a schema of this process finds something. `sideEffects` of the package names
// this file, so that bundles keep it.
z.config({ customError: issueWords });
