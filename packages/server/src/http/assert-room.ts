import type { Endpoint, Limits } from '@pragmatica/contract';
import { ServiceError } from '../errors.js';
import { countOf } from '../storage/counts.js';
import type { Member } from '../storage/rows.js';
import type { Store } from '../storage/store.js';

/** Holds a call that makes one more of something against how many there may be. @throws ServiceError 409 */
export async function assertRoom(
  store: Store,
  { makes }: Pick<Endpoint, 'makes'>,
  limits: Limits,
  of: { readonly site: string | undefined; readonly member: Pick<Member, 'id'> | undefined },
): Promise<void> {
  // Snippets come in more than one way: storage itself counts them.
  if (makes === undefined || makes === 'snippets') return;
  if ((await countOf(store, makes, of)) >= limits[makes])
    throw new ServiceError('limit-reached', { what: makes, most: limits[makes] });
}
