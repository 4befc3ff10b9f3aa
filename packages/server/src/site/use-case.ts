import type { Access } from '@pragmatica/core';
import type { Store } from '../storage/store.js';
import type { Sets } from './sets.js';
import type { SiteChecks } from './site-checks.js';

/** Who does something, and with which view of the database. */
export interface Acting {
  readonly store: Store;
  /** The login written into the trail. */
  readonly actor: string;
}

/** The same where it is about sites that nobody has looked at yet whether they may. */
export interface ActingWithin extends Acting {
  readonly access: Access;
}

/** What it takes to say what a site's set is, and what is wrong with it. */
export interface SiteTools {
  readonly checks: SiteChecks;
  readonly sets: Sets;
}

/** What is answered, and the entity tag of what it is about. */
export interface Tagged<T> {
  readonly data: T;
  readonly etag: string;
}
