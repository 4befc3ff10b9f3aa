import { ReleasePlanner, lineName, pageAddress, type Snapshot } from '@pragmatica/core';
import type { Environment, SentPolicy, Transfer } from '@pragmatica/contract';
import type { Logger } from 'pino';
import { Line } from '../one-line/line.js';
import type { Lines } from '../one-line/serve-line.js';
import { PagePolicy } from '../policy/page-policy.js';
import type { ReleaseFiles } from './release-files.js';
import type { ReleaseState, StateMessage } from './state.js';

export interface ServedRelease {
  readonly number: number;
  readonly digest: string;
  readonly planner: ReleasePlanner;
  /** What the one line loads. */
  readonly line?: Line;
}

/** Where what is served is found, by the name of a site's line. */
export interface ServedByName {
  /** Undefined for no site, null while nothing is published. */
  served(name: string): ServedRelease | null | undefined;
}

/** What the gateway knows of one host: all that a page load needs, ready in memory. */
export interface ServedHost {
  readonly host: string;
  readonly site: string;
  readonly environment: Environment;
  /** Where pages come from; several take turns. */
  readonly origins: readonly string[];
  /** How pages come from there. @defaultValue auto */
  readonly transfer?: Transfer;
  /** What is sent as content policy with its pages. */
  readonly policy?: PagePolicy | undefined;
  /** What its pages get; undefined while nothing has been published, or where they get it in another way. */
  readonly release: ServedRelease | undefined;
}

/** The live releases, compiled, by host, in a process that serves. It reads files; of the database it knows nothing. */
export class ReleaseTable implements Lines, ServedByName {
  readonly #files: ReleaseFiles;
  readonly #log: Logger;
  #hosts: ReadonlyMap<string, ServedHost> = new Map();
  /** What each environment serves, by the name of its line. */
  #served: ReadonlyMap<string, ServedRelease | undefined> = new Map();
  /** By id of the release, which never changes its content, and environment. */
  #compiled: ReadonlyMap<string, ServedRelease> = new Map();
  #last: StateMessage | undefined;
  #using: Promise<void> | undefined;

  constructor(files: ReleaseFiles, log: Logger) {
    this.#files = files;
    this.#log = log;
  }

  get size(): number {
    return this.#hosts.size;
  }

  find(host: string): ServedHost | undefined {
    return this.#hosts.get(host);
  }

  line(name: string): Line | null | undefined {
    return this.#served.has(name) ? (this.#served.get(name)?.line ?? null) : undefined;
  }

  served(name: string): ServedRelease | null | undefined {
    return this.#served.has(name) ? (this.#served.get(name) ?? null) : undefined;
  }

  /** Serves a state. States that come while one is made ready are joined: the last of them counts. Never throws. */
  async use(message: StateMessage): Promise<void> {
    this.#last = message;
    this.#using ??= (async () => {
      while (this.#last) {
        const next = this.#last;
        this.#last = undefined;
        await this.#swap(next);
      }
      this.#using = undefined;
    })();
    await this.#using;
  }

  /** Makes ready what is new and swaps the whole table at once: no page load gets a mixture. */
  async #swap({ state, texts }: StateMessage): Promise<void> {
    const releases = new Map(state.releases.map((release) => [release.id, release]));
    const compiled = new Map<string, ServedRelease>();
    const hosts: [string, ServedHost][] = [];
    const served = new Map<string, ServedRelease | undefined>();
    for (const { release: id, isDelivered = true, policy, ...host } of state.hosts) {
      const key = `${String(id)} ${host.environment}`;
      const ready =
        id === null
          ? undefined
          : (compiled.get(key) ??
            this.#compiled.get(key) ??
            (await this.#make(releases.get(id), host.environment, texts[id])));
      if (ready) compiled.set(key, ready);
      // A release that cannot be read changes nothing: visitors get the one before.
      const name = lineName(host.site, host.environment);
      const release = ready ?? (id === null ? undefined : this.#served.get(name));
      served.set(name, release);
      // What a policy's needs are told of is the release that goes with it, and no other.
      const isSent = isDelivered && policy !== undefined && ready !== undefined;
      hosts.push([
        host.host,
        {
          ...host,
          release: isDelivered ? release : undefined,
          policy: isSent ? this.#policy(host.host, policy) : undefined,
        },
      ]);
    }
    this.#hosts = new Map(hosts);
    this.#served = served;
    this.#compiled = compiled;
  }

  /** The same object for as long as the same is sent: what it has worked out is kept. */
  #policy(host: string, sent: SentPolicy): PagePolicy {
    const policy = new PagePolicy(sent);
    const before = this.#hosts.get(host)?.policy;
    return before?.tag === policy.tag ? before : policy;
  }

  async #make(
    release: ReleaseState | undefined,
    environment: Environment,
    text: string | undefined,
  ): Promise<ServedRelease | undefined> {
    if (!release) return undefined;
    const { number, digest } = release;
    try {
      const snapshot =
        text === undefined ? await this.#files.readRelease(release) : (JSON.parse(text) as Snapshot);
      return {
        number,
        digest,
        planner: this.#planner(number, snapshot, environment),
        line: new Line(snapshot, environment, number),
      };
    } catch (error) {
      this.#log.error(
        { err: error, release: number },
        'a release cannot be read; the one before goes on being served',
      );
      return undefined;
    }
  }

  /** Ready before the first visitor comes; one that cannot be planned harms no other release. */
  #planner(number: number, snapshot: Snapshot, environment: Environment): ReleasePlanner {
    const planner = new ReleasePlanner(snapshot, environment);
    try {
      planner.page(pageAddress('/'));
    } catch (error) {
      this.#log.error(
        { err: error, release: number },
        'a release cannot be planned; its pages go out untouched',
      );
    }
    return planner;
  }
}
