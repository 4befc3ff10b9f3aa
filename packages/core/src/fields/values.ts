import type { EnvironmentName } from '../reach/index.js';
import type { Field, FieldType } from './types.js';
import { FIELDS_TEXTS } from '../texts/fields.js';

const RULES: Readonly<Record<FieldType, { readonly fits: RegExp; readonly problem: string }>> = {
  text: {
    fits: /^[^\p{Cc}]{0,500}$/u,
    get problem() {
      return FIELDS_TEXTS.mayHoldOne;
    },
  },
  id: {
    fits: /^[\w.:/-]{1,100}$/,
    get problem() {
      return FIELDS_TEXTS.mayHoldLetters;
    },
  },
  number: {
    fits: /^-?\d{1,15}(?:\.\d{1,10})?$/,
    get problem() {
      return FIELDS_TEXTS.writeNumberLike;
    },
  },
  flag: {
    fits: /^(?:true|false)$/,
    get problem() {
      return FIELDS_TEXTS.eitherTrueFalse;
    },
  },
  colour: {
    fits: /^(?:#(?:[0-9a-f]{3,4}|[0-9a-f]{6}|[0-9a-f]{8})|[a-z]{3,20}|(?:rgb|hsl)\([\d\s.,%]{5,40}\))$/i,
    get problem() {
      return FIELDS_TEXTS.writeColourLike;
    },
  },
  url: {
    fits: /^https?:\/\/[^\s"'<>\\]{1,500}$/i,
    get problem() {
      return FIELDS_TEXTS.writeWholeAddress;
    },
  },
  phone: {
    fits: /^\+?[\d ()/-]{3,30}$/,
    get problem() {
      return FIELDS_TEXTS.writeTelephoneNumber;
    },
  },
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
