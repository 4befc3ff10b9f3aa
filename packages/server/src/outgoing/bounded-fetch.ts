import { readBounded } from './read-bounded.js';
import { reasonOf } from './reason.js';

const MAX_BYTES = 1_000_000;

/** Nothing came, or nothing that can be read as far as it may be. */
export class AwayError extends Error {
  override name = 'AwayError';
}

/** Asks an address that whoever runs the installation has set, and reads as much of its answer as anything needs. @throws AwayError */
export async function boundedFetch(
  address: string,
  { body, ...options }: Omit<RequestInit, 'body'> & { readonly body?: RequestInit['body'] | undefined },
): Promise<Response> {
  try {
    const response = await fetch(address, { ...options, body: body ?? null });
    const bytes = await readBounded(response, MAX_BYTES);
    if (bytes === undefined) throw new Error(`its answer is longer than ${MAX_BYTES} bytes`);
    const { status, headers } = response;
    return new Response(bytes.length > 0 ? Buffer.from(bytes) : null, { status, headers });
  } catch (error) {
    throw new AwayError(reasonOf(error), { cause: error });
  }
}
