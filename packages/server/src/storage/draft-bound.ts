import type { EventSubscriber, FlushEventArgs, TransactionEventArgs } from '@mikro-orm/core';
import { ServiceError } from '../errors.js';
import type { Snippet } from './entities/index.js';

/** Refuses transactions that give a site more snippets than it may have, however they come. */
export class DraftBound implements EventSubscriber {
  /** Ids of the sites to which a transaction has added snippets. */
  readonly #grown = new WeakMap<object, Set<number>>();

  /** @param most - snippets of a site */
  constructor(private readonly most: number) {}

  onFlush({ em, uow }: FlushEventArgs): void {
    const transaction = em.getTransactionContext<object>();
    if (!transaction) return;
    for (const { name, entity, type } of uow.getChangeSets())
      if (name === 'Snippet' && isNew(type)) {
        const sites = this.#grown.get(transaction) ?? new Set();
        sites.add((entity as Snippet).site.id);
        this.#grown.set(transaction, sites);
      }
  }

  /** @throws ServiceError 409 */
  async beforeTransactionCommit({ em, transaction }: TransactionEventArgs): Promise<void> {
    for (const site of this.#grown.get(transaction as object) ?? []) {
      const [row] = (await em
        .getConnection()
        .execute('select count(*)::int as n from snippet where site_id = ?', [site], 'all', transaction)) as {
        n: number;
      }[];
      if (row!.n > this.most) throw new ServiceError('limit-reached', { what: 'snippets', most: this.most });
    }
  }
}

function isNew(type: string): boolean {
  return type === 'create';
}
