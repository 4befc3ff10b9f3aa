import { formatMessage, type Params } from '@pragmatica/core';
import { closest, distance } from 'fastest-levenshtein';
import type { z } from 'zod';
import './issue-words.js';
import { ISSUE_TEXTS } from './texts/issue-texts.js';

export interface FieldError {
  /** JSON Pointer (RFC 6901). */
  readonly pointer: string;
  readonly detail: string;
  /** What `detail` says, with its parameters apart. */
  readonly message?: { readonly id: string; readonly params: Params };
}

/** A name is "near" when at most this share of it would have to change. */
const NEAR = 0.5;

/** Turns what Zod found into one entry per field; an unknown key is answered with the nearest known one. */
export function fieldErrors(error: z.ZodError, schema: z.ZodType): FieldError[] {
  return error.issues.flatMap((issue) => {
    if (issue.code === 'unrecognized_keys') {
      const known = keysAt(schema, issue.path);
      return issue.keys.map((key) => ({
        pointer: toPointer([...issue.path, key]),
        detail: unknownKeyWords(key, known),
      }));
    }
    return [{ pointer: toPointer(issue.path), detail: issue.message }];
  });
}

/** RFC 6901, section 3. */
export function toPointer(path: readonly PropertyKey[]): string {
  return path.map((step) => `/${String(step).replaceAll('~', '~0').replaceAll('/', '~1')}`).join('');
}

/** The nearest of the known names, if one is near enough to be meant. */
export function nearest(name: string, known: readonly string[]): string | undefined {
  if (known.length === 0) return undefined;
  const best = closest(name.toLowerCase(), known);
  const away = distance(name.toLowerCase(), best);
  // Two short names that share no letter are as far from each other as they are long.
  const limit = Math.min(Math.max(2, best.length * NEAR), best.length - 1);
  return away <= limit ? best : undefined;
}

function unknownKeyWords(key: string, known: readonly string[]): string {
  const near = nearest(key, known);
  return near === undefined
    ? formatMessage(ISSUE_TEXTS.unknown, { key, known: known.join(', ') })
    : formatMessage(ISSUE_TEXTS.unknownNear, { key, near });
}

interface Definition {
  readonly type: string;
  readonly shape?: Record<string, z.ZodType>;
  readonly element?: z.ZodType;
  readonly innerType?: z.ZodType;
  readonly in?: z.ZodType;
  readonly options?: readonly z.ZodType[];
}

/** The keys that an object schema knows at a path, looking through wrappers, lists and unions. */
function keysAt(schema: z.ZodType, path: readonly PropertyKey[]): string[] {
  const definition = schema._zod.def as unknown as Definition;
  const inner = definition.innerType ?? definition.in;
  if (inner) return keysAt(inner, path);
  if (definition.options) return definition.options.flatMap((option) => keysAt(option, path));
  const [step, ...rest] = path;
  if (definition.shape) {
    if (step === undefined) return Object.keys(definition.shape);
    const next = definition.shape[String(step)];
    return next ? keysAt(next, rest) : [];
  }
  return definition.element && step !== undefined ? keysAt(definition.element, rest) : [];
}
