import type { MikroORM } from '@mikro-orm/postgresql';
import { DEFAULT_LIMITS, type Limits } from '@pragmatica/contract';
import { emOf } from './em.js';
import type { Store } from './store.js';

/** By configuration, which all units of work of one database share. */
const limits = new WeakMap<object, Limits>();

/** Says how much may be kept in a database. */
export function keepLimits(orm: Pick<MikroORM, 'config'>, given: Limits): void {
  limits.set(orm.config, given);
}

/** How much may be kept in the database of a store. */
export function limitsOf(store: Store): Limits {
  return limits.get(emOf(store).config) ?? DEFAULT_LIMITS;
}
