import type { EntityManager } from '@mikro-orm/postgresql';
import { RecipeBook } from '@pragmatica/core';
import { RecipeEntity } from '../storage/entities/index.js';

/** The recipes that there are, as they were at one moment. */
export interface Shelf {
  readonly book: RecipeBook;
  /** Another one whenever there are more. */
  readonly edition: string;
}

/** Versions of recipes never change, so they are read again only when there are more of them. */
export class RecipeShelf {
  #shelf: Shelf = { book: new RecipeBook(), edition: '0 0' };

  /** One small query, and another one only where something is new. */
  async look(em: EntityManager): Promise<Shelf> {
    const [counted] = await em.execute<{ count: number; last: number }[]>(
      'select count(*)::int as count, coalesce(max(id), 0)::int as last from recipe',
    );
    const edition = `${counted!.count} ${counted!.last}`;
    if (edition !== this.#shelf.edition) {
      const rows = await em.find(RecipeEntity, {}, { orderBy: { id: 'asc' } });
      this.#shelf = { book: new RecipeBook(rows.map(({ body }) => body)), edition };
    }
    return this.#shelf;
  }
}
