import { createClient, type ApiClient, type Environment } from '@pragmatica/contract';
import {
  FactsCache,
  ReleasePlanner,
  pageAddress,
  policyNeedsOf,
  snapshotDigest,
  type PolicyNeed,
  type Snapshot,
} from '@pragmatica/core';
import { readCopy, writeCopy } from './local-copy.js';

export interface FollowOptions {
  /** Where the service is, like `https://pragmatica.example`. */
  readonly server: string;
  readonly token: string;
  /** Key of the site. */
  readonly site: string;
  /** @defaultValue live */
  readonly environment?: Environment;
  /** A file in which the last release is kept, so that pages get it before the service has answered. */
  readonly copy?: string;
  /** How often the service is asked, in milliseconds. @defaultValue 5000 */
  readonly everyMs?: number;
  /** Hears what goes wrong, each thing once until it is well again. Pages never do. */
  readonly onProblem?: (error: unknown) => void;
  readonly fetch?: typeof fetch;
}

/** A release that pages get. */
export interface FollowedRelease {
  readonly number: number;
  readonly digest: string;
  readonly planner: ReleasePlanner;
  /** What its parts need of a content policy, by their keys: read from their code when it is first asked for. */
  needs(): ReadonlyMap<string, readonly PolicyNeed[]>;
}

const EVERY_MS = 5_000;

/**
 * Follows what an environment of a site serves. While the service is away, pages get the last release that was heard of;
 * where there was none yet, the one in the local copy.
 */
export class ReleaseFollower {
  readonly #options: FollowOptions;
  readonly #client: ApiClient;
  readonly #environment: Environment;
  #release: FollowedRelease | undefined;
  #timer: NodeJS.Timeout | undefined;
  #isWell = true;
  #isClosed = false;

  constructor(options: FollowOptions) {
    const { server, token, fetch } = options;
    this.#options = options;
    this.#environment = options.environment ?? 'live';
    this.#client = createClient({ server, token, ...(fetch ? { fetch } : {}) });
  }

  /** What pages get now; undefined while nothing is known or published. */
  get release(): FollowedRelease | undefined {
    return this.#release;
  }

  /** Begins to follow. Resolves when something is known, or the service does not answer; never rejects. */
  async start(): Promise<this> {
    const kept = this.#options.copy === undefined ? undefined : await readCopy(this.#options.copy);
    if (kept?.site === this.#options.site && kept.environment === this.#environment)
      this.#use(kept.release, kept.snapshot);
    await this.#look();
    return this;
  }

  close(): void {
    this.#isClosed = true;
    clearTimeout(this.#timer);
  }

  async #look(): Promise<void> {
    try {
      await this.#read();
      this.#isWell = true;
    } catch (error) {
      if (this.#isWell) this.#options.onProblem?.(error);
      this.#isWell = false;
    }
    if (this.#isClosed) return;
    this.#timer = setTimeout(() => void this.#look(), this.#options.everyMs ?? EVERY_MS);
    // It keeps nobody's process alive.
    this.#timer.unref();
  }

  async #read(): Promise<void> {
    const { site, copy } = this.#options;
    const params = { site, environment: this.#environment };
    const { data: state } = await this.#client.call('showEnvironment', { params });
    if (state.release === (this.#release?.number ?? null)) return;
    if (state.release === null) {
      this.#release = undefined;
      return;
    }
    const { data } = await this.#client.call('showRelease', { params: { site, release: state.release } });
    this.#use(data.number, data.snapshot);
    if (copy !== undefined)
      await writeCopy(copy, {
        ...{ site, environment: this.#environment, release: data.number },
        snapshot: data.snapshot,
      });
  }

  /** Ready before the first page comes; one that cannot be made ready leaves the one before. */
  #use(number: number, snapshot: Snapshot): void {
    const planner = new ReleasePlanner(snapshot, this.#environment);
    planner.page(pageAddress('/'));
    let needs: ReadonlyMap<string, readonly PolicyNeed[]> | undefined;
    this.#release = {
      number,
      digest: snapshotDigest(snapshot),
      planner,
      needs: () => (needs ??= policyNeedsOf(snapshot, this.#environment, new FactsCache())),
    };
  }
}
