const ORDER = ['sha256', 'sha384', 'sha512'] as const;

/**
 * Whether a file is let in by what a tag says of it (Subresource Integrity, 3.3.5): of the hashes given, only those of the strongest
 * kind count, and one of them has to be the file's. A tag that gives none lets all in.
 *
 * @param metadata - the attribute's value
 * @param ofFile - the file's hashes, in the same form, one of each kind
 */
export function matchesIntegrity(metadata: string, ofFile: string): boolean {
  const given = hashesIn(metadata);
  const strongest = [...ORDER].reverse().find((kind) => given.some(([one]) => one === kind));
  if (!strongest) return true;
  const is = hashesIn(ofFile).find(([kind]) => kind === strongest)?.[1];
  return given.some(([kind, hash]) => kind === strongest && hash === is);
}

function hashesIn(metadata: string): (readonly [kind: string, hash: string])[] {
  return metadata
    .trim()
    .split(/\s+/)
    .flatMap((one) => {
      // Options behind a question mark are kept for later (3.1).
      const found = /^(sha256|sha384|sha512)-([A-Za-z0-9+/_-]+={0,2})(?:\?|$)/.exec(one);
      return found ? [[found[1]!, found[2]!.replaceAll('-', '+').replaceAll('_', '/')] as const] : [];
    });
}

/** The hash of a file to write into a tag. @param ofFile - its hashes */
export function integrityToWrite(ofFile: string): string | undefined {
  return ofFile.split(' ').find((one) => one.startsWith('sha384-'));
}
