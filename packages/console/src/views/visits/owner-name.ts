import { VISITS } from '../../texts/visits';

interface Who {
  /** Null for the page itself, undefined where it is not known. */
  readonly snippet?: string | null | undefined;
}

/** Whose doing something was, as people call it, where the answer brings the snippet's name. */
export function whoName({ snippet, name }: Who & { readonly name: string }): string {
  if (snippet === undefined) return VISITS.unknown;
  return snippet === null ? VISITS.itself : name;
}

/** The same, where names are kept apart. */
export function ownerName({ snippet }: Who, names: ReadonlyMap<string, string>): string {
  return whoName({ snippet, name: names.get(snippet ?? '') ?? snippet ?? '' });
}
