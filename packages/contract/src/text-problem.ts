import type { FieldError } from './field-errors.js';
import { toPointer } from './field-errors.js';
import { FIELD_TEXTS } from './texts/field-texts.js';

const NUL = '\0';
const LONE_SURROGATE = /(?<![\ud800-\udbff])[\udc00-\udfff]|[\ud800-\udbff](?![\udc00-\udfff])/;

/**
 * The first text in a request that cannot be kept as it is: with a null character, or with half of a character (a lone
 * surrogate), which any encoding would replace in silence. Names of fields count, too. Without calling itself, however
 * deep the request is.
 */
export function textProblem(value: unknown): FieldError | undefined {
  const waiting: { readonly value: unknown; readonly path: readonly (string | number)[] }[] = [
    { value, path: [] },
  ];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const { value: at, path } = next;
    if (typeof at === 'string') {
      const detail = problemOf(at) ?? lineProblem(at, path.at(-1));
      if (detail !== undefined) return { pointer: toPointer(path), detail };
    } else if (typeof at === 'object' && at !== null)
      for (const [name, inner] of Object.entries(at)) {
        const detail = problemOf(name);
        if (detail !== undefined) return { pointer: toPointer(path), detail };
        waiting.push({ value: inner, path: [...path, Array.isArray(at) ? Number(name) : name] });
      }
  }
  return undefined;
}

/** Fields that are shown in one line. What is kept already stays readable; what comes in anew has to fit. */
const LINES: ReadonlySet<unknown> = new Set(['name', 'label', 'message', 'tokenName']);

function lineProblem(text: string, field: string | number | undefined): string | undefined {
  return LINES.has(field) && /\p{Cc}/u.test(text) ? FIELD_TEXTS.oneLine : undefined;
}

function problemOf(text: string): string | undefined {
  if (text.includes(NUL)) return FIELD_TEXTS.nullCharacter;
  if (LONE_SURROGATE.test(text)) return FIELD_TEXTS.loneSurrogate;
  return undefined;
}
