import type { EnvironmentName } from '../reach/index.js';
import type { Field, FieldType } from './types.js';

const RULES: Readonly<Record<FieldType, { readonly fits: RegExp; readonly problem: string }>> = {
  text: { fits: /^[^\p{Cc}]{0,500}$/u, problem: 'It may hold one line of at most 500 characters.' },
  id: {
    fits: /^[\w.:/-]{1,100}$/,
    problem: 'It may hold letters, digits, dots, colons, slashes, dashes and underscores.',
  },
  number: { fits: /^-?\d{1,15}(?:\.\d{1,10})?$/, problem: 'Write a number like 5 or 2.5.' },
  flag: { fits: /^(?:true|false)$/, problem: 'It is either true or false.' },
  colour: {
    fits: /^(?:#(?:[0-9a-f]{3,4}|[0-9a-f]{6}|[0-9a-f]{8})|[a-z]{3,20}|(?:rgb|hsl)\([\d\s.,%]{5,40}\))$/i,
    problem: 'Write a colour like #12303a.',
  },
  url: {
    fits: /^https?:\/\/[^\s"'<>\\]{1,500}$/i,
    problem: 'Write a whole address like https://www.example.com/.',
  },
  phone: { fits: /^\+?[\d ()/-]{3,30}$/, problem: 'Write a telephone number like +353 1 555 0100.' },
};

/** What is wrong with a value of a type, in words; undefined where it fits. */
export function fieldValueProblem(type: FieldType, value: string): string | undefined {
  if (!RULES[type].fits.test(value) || (type === 'url' && !URL.canParse(value))) return RULES[type].problem;
  return undefined;
}

/** The value of a field in an environment; its example where it has none, undefined where it has not even that. */
export function fieldValue(field: Field, environment: EnvironmentName): string | undefined {
  return field[environment] ?? field.value ?? field.example;
}

/** Whether a field still has the provider's example, or nothing, in an environment. */
export function isLeftAtExample(field: Field, environment: EnvironmentName): boolean {
  const value = field[environment] ?? field.value;
  return value === undefined || value === '' || (field.example !== undefined && value === field.example);
}
