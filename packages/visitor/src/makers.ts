import type { SeenTag, Stack } from '@pragmatica/core';
import type { CDPSession } from 'playwright-core';
import { notDelivered, type NewElement } from './not-delivered.js';
import type { Protocol } from './protocol.js';
import type { Recorder } from './recorder.js';
import { within } from './within.js';

const ANSWER_MS = 4_000;
const MAX_MADE = 400;
/** An element is laid to what made it, or to what made an element so many steps around it. */
const MAX_UP = 6;
const SHOWS_NOTHING = /^(?:html|head|body|meta|title|base|script|link|style|noscript|template)$/;

/** An element that a script has made. */
export interface MadeElement {
  /** As the page's world knows it. */
  readonly objectId: string;
  readonly stack: Stack;
}

/** Elements that scripts have made. */
export interface Made {
  /** The topmost of each piece. */
  readonly made: readonly MadeElement[];
  /** Script elements with files. */
  readonly tags: readonly SeenTag[];
}

/** Tells by which script an element of a page was made. Asks about each element once, and about none that came with the page. */
export class Makers {
  readonly #session: CDPSession;
  readonly #recorder: Recorder;
  readonly #parents = new Map<number, number>();
  /** Of the elements that did not come with the page, once asked. */
  readonly #stacks = new Map<number, Promise<Stack>>();
  readonly #new = new Set<number>();

  constructor(session: CDPSession, recorder: Recorder) {
    this.#session = session;
    this.#recorder = recorder;
  }

  /** @param html - the page as delivered */
  async madeElements(html: string, contextId: number): Promise<Made> {
    const tree = await within(ANSWER_MS, this.#session.send('DOM.getDocument', { depth: -1, pierce: true }));
    if (!tree) return { made: [], tags: [] };
    this.#learn(tree.root);
    const made: (MadeElement & { readonly nodeId: number })[] = [];
    const tags: SeenTag[] = [];
    const base = tree.root.baseURL;
    // Those in an element that a script has made are that script’s: they are not asked about, but for script files.
    const ask = async ({ node, inside }: NewElement, isTopmost: boolean): Promise<void> => {
      this.#new.add(node.nodeId);
      const url = node.localName === 'script' ? fileOf(node, base) : undefined;
      const canShow = isTopmost && !SHOWS_NOTHING.test(node.localName);
      const stack = canShow || url !== undefined ? await this.#stackOf(node.nodeId) : [];
      if (stack.length > 0 && url !== undefined && tags.length < MAX_MADE) tags.push({ url, stack });
      const isMade = canShow && stack.length > 0;
      if (isMade && made.length < MAX_MADE) {
        const { nodeId } = node;
        const found = await this.#session
          .send('DOM.resolveNode', { nodeId, executionContextId: contextId })
          .catch(() => undefined);
        const { objectId } = found?.object ?? {};
        if (objectId !== undefined) made.push({ nodeId, objectId, stack });
      }
      await Promise.all(inside.map((one) => ask(one, isTopmost && !isMade)));
    };
    await within(ANSWER_MS, Promise.all(notDelivered(tree.root, html).map((one) => ask(one, true))));
    // Answers come in any order; nodes are numbered as they stand in the page.
    made.sort((a, b) => a.nodeId - b.nodeId);
    return { made, tags };
  }

  /**
   * What made each of the elements in `window.seenElements`, by their index; an element without a maker is left out.
   *
   * @param count - how many there are, or are wanted
   * @param known - of those that are not asked about
   */
  async stacksOfSeen(
    contextId: number,
    count: number,
    known: ReadonlyMap<number, Stack>,
  ): Promise<ReadonlyMap<number, Stack>> {
    const stacks = new Map(known);
    if (known.size < count) await within(ANSWER_MS, this.#askSeen(contextId, count, stacks));
    return stacks;
  }

  async #askSeen(contextId: number, count: number, stacks: Map<number, Stack>): Promise<void> {
    const { result: list } = await this.#session.send('Runtime.evaluate', {
      contextId,
      expression: 'window.seenElements',
    });
    if (list.objectId === undefined) return;
    const { result } = await this.#session.send('Runtime.getProperties', {
      objectId: list.objectId,
      ownProperties: true,
    });
    await Promise.all(
      result.map(async ({ name, value }) => {
        const index = Number(name);
        if (!(index < count) || stacks.has(index) || value?.objectId === undefined) return;
        const found = await this.#session
          .send('DOM.requestNode', { objectId: value.objectId })
          .catch(() => undefined);
        const stack = found ? await this.#makerAround(found.nodeId) : [];
        if (stack.length > 0) stacks.set(index, stack);
      }),
    );
  }

  async #makerAround(nodeId: number): Promise<Stack> {
    let up = 0;
    for (let one: number | undefined = nodeId; one !== undefined && up < MAX_UP; up++) {
      // What has come since the tree was read is new, too.
      const isNew = this.#new.has(one) || !this.#parents.has(one);
      const stack = isNew ? await this.#stackOf(one) : [];
      if (stack.length > 0) return stack;
      one = this.#parents.get(one);
    }
    return [];
  }

  #learn(node: Protocol.DOM.Node): void {
    for (const child of [...(node.children ?? []), ...(node.shadowRoots ?? [])]) {
      this.#parents.set(child.nodeId, node.nodeId);
      this.#learn(child);
    }
  }

  #stackOf(nodeId: number): Promise<Stack> {
    let known = this.#stacks.get(nodeId);
    if (!known) {
      known = this.#session.send('DOM.getNodeStackTraces', { nodeId }).then(
        ({ creation }) => (creation ? this.#recorder.stackOf(creation) : []),
        // It has left the page meanwhile.
        () => [],
      );
      this.#stacks.set(nodeId, known);
    }
    return known;
  }
}

/** The address of a script element's file; undefined where it has none. */
function fileOf({ attributes = [] }: Protocol.DOM.Node, base: string | undefined): string | undefined {
  const at = attributes.findIndex((name, index) => index % 2 === 0 && name === 'src');
  const source = at < 0 ? undefined : attributes[at + 1];
  return source !== undefined && URL.canParse(source, base) ? new URL(source, base).href : undefined;
}
