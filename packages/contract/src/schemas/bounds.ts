import { z } from 'zod';

/**
 * Reports each entry of a list whose name an earlier one has already, in one pass: a list that is far too long is looked at, too,
 * before it is refused.
 *
 * @param field - that holds the name, to which the report points
 */
export function refuseTwice<T>(
  list: readonly T[],
  field: keyof T & string,
  context: { addIssue(issue: { code: 'custom'; path: (string | number)[]; message: string }): void },
  message: string,
): void {
  const seen = new Set<unknown>();
  list.forEach((entry, index) => {
    if (seen.has(entry[field])) context.addIssue({ code: 'custom', path: [index, field], message });
    seen.add(entry[field]);
  });
}

/** What is longer is not looked at any further: no check of what is in it runs. */
export const ENDS_HERE = { abort: true } as const;

/** An object by names that somebody chooses, with so many of them at most. */
export function boundedRecord<V extends z.ZodType>(key: z.ZodType<string, string>, value: V, max: number) {
  return z
    .record(key, value)
    .refine((record) => Object.keys(record).length <= max)
    .meta({ maxProperties: max });
}
