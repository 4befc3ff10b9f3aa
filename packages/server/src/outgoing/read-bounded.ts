/** An answer of any client that reads the Fetch Standard’s way. */
interface HasBody {
  readonly body: unknown;
}

/**
 * The body of an answer, as far as it is no longer than what is wanted: what comes is counted, not what was announced.
 *
 * @param longer - a longer one is cut there, or nothing at all
 * @returns undefined for a longer one that is not cut; no more of it is read
 */
export async function readBounded(
  response: HasBody,
  most: number,
  longer: 'cut' | 'nothing' = 'nothing',
): Promise<Uint8Array | undefined> {
  const chunks: Uint8Array[] = [];
  let length = 0;
  // Leaving the loop early cancels the rest of the body.
  for await (const chunk of bodyOf(response)) {
    length += chunk.length;
    if (length > most && longer === 'nothing') return undefined;
    chunks.push(chunk);
    if (length >= most && longer === 'cut') return Buffer.concat(chunks).subarray(0, most);
  }
  return Buffer.concat(chunks, length);
}

/** The body in chunks; none where there is no body. */
export function bodyOf(response: HasBody): AsyncIterable<Uint8Array> {
  return (response.body ?? []) as AsyncIterable<Uint8Array>;
}
