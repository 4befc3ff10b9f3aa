import { VISITS } from '../texts/visits.js';

/** Who did something: a snippet by its name, the page itself, or nobody known. */
export function whoName({
  snippet,
  name,
}: {
  readonly snippet?: string | null | undefined;
  readonly name: string;
}): string {
  if (snippet === undefined) return VISITS.unknown;
  return snippet === null ? VISITS.page : name;
}
