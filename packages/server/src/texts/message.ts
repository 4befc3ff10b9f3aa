import { IntlMessageFormat } from 'intl-messageformat';

/** A text with its parameters apart (ICU MessageFormat). */
export interface Message<Name extends string = string> {
  readonly pattern: string;
  readonly names: readonly Name[];
}

export type ParamValue = string | number | readonly string[];

/** The parameters that a message needs. */
export type ParamsOf<M> = M extends Message<infer Name> ? Readonly<Record<Name, ParamValue>> : never;

/** @param names - the parameters in the pattern, which a test holds against it */
export function message<const Names extends readonly string[]>(
  pattern: string,
  ...names: Names
): Message<Names[number]> {
  return { pattern, names };
}

/** The language that texts are written in, as it is written where lists have no comma before "and". */
const LOCALE = 'en-GB';

const formats = new Map<string, IntlMessageFormat>();

/** The text of a message; a list of names is read as one. */
export function formatMessage(
  { pattern }: Message,
  params: Readonly<Record<string, ParamValue>>,
  locale = LOCALE,
): string {
  const key = `${locale} ${pattern}`;
  let format = formats.get(key);
  if (!format)
    formats.set(key, (format = new IntlMessageFormat(pattern, locale, undefined, { ignoreTag: true })));
  const list = new Intl.ListFormat(locale, { style: 'long', type: 'conjunction' });
  const values = Object.fromEntries(
    Object.entries(params).map(([name, value]) => [name, Array.isArray(value) ? list.format(value) : value]),
  ) as Record<string, string | number>;
  return String(format.format(values));
}
