import { VISITS } from '../../texts/visits';

/** Whose doing something was, as people call it. */
export function ownerName(
  { snippet }: { readonly snippet?: string | null | undefined },
  names: ReadonlyMap<string, string>,
): string {
  if (snippet === undefined) return VISITS.unknown;
  return snippet === null ? VISITS.itself : (names.get(snippet) ?? snippet);
}
