import { liveNotes, type LiveNote, type SiteNote } from '../../storage/live.js';
import type { Listener } from '../../storage/listener.js';

/** What has happened since somebody looked, each kind once. */
export type Pending = ReadonlyMap<LiveNote['what'], string>;

/** So many windows of one member may follow sites at a time; one more would be a loop that opens and opens. */
export const MOST_WINDOWS = 40;

/** What somebody who follows a site has not taken yet: bounded, however much happens. */
export class Inbox {
  #pending = new Map<LiveNote['what'], string>();
  #wake: (() => void) | undefined;
  #isClosed = false;

  constructor(
    readonly site: number,
    readonly member: number,
  ) {}

  /** Whether whoever follows has left, or is to. */
  isOver(): boolean {
    return this.#isClosed;
  }

  put({ what, by }: LiveNote): void {
    this.#pending.set(what, by);
    this.#wake?.();
  }

  close(): void {
    this.#isClosed = true;
    this.#wake?.();
  }

  /** What has come, or nothing after so long, or at once when it is closed. */
  async take(withinMs: number): Promise<Pending> {
    if (this.#pending.size === 0 && !this.#isClosed)
      await new Promise<void>((resolve) => {
        const timer = setTimeout(resolve, withinMs);
        this.#wake = () => {
          clearTimeout(timer);
          resolve();
        };
      });
    const taken = this.#pending;
    this.#pending = new Map();
    return taken;
  }
}

/** Hands on what happens to a site to all who follow it in this process, wherever it happens. */
export class LiveHub {
  readonly #inboxes = new Set<Inbox>();
  readonly #listener: Listener;

  constructor(databaseUrl: string) {
    this.#listener = liveNotes(databaseUrl, (note) => this.#onNote(note), { onAgain: () => this.#onAgain() });
  }

  async start(): Promise<void> {
    await this.#listener.start();
  }

  /** Ends what everybody follows. */
  async close(): Promise<void> {
    for (const inbox of this.#inboxes) inbox.close();
    await this.#listener.close();
  }

  /** An inbox for what happens to a site. @returns undefined where the member has too many */
  open(site: number, member: number): Inbox | undefined {
    let windows = 0;
    for (const inbox of this.#inboxes) if (inbox.member === member) windows += 1;
    if (windows >= MOST_WINDOWS) return undefined;
    const inbox = new Inbox(site, member);
    this.#inboxes.add(inbox);
    return inbox;
  }

  drop(inbox: Inbox): void {
    this.#inboxes.delete(inbox);
  }

  #onNote({ site, ...note }: SiteNote): void {
    for (const inbox of this.#inboxes) if (inbox.site === site) inbox.put(note);
  }

  /** Nobody knows what was missed: everything may be another. */
  #onAgain(): void {
    for (const inbox of this.#inboxes)
      for (const what of ['site', 'comments', 'people'] as const) inbox.put({ what, by: '' });
  }
}
