import type {
  Definition,
  FloatingBox,
  Load,
  MadeElement,
  Moment,
  NeededElement,
  Range,
  SentEvent,
  Settings,
  Stored,
  Sureness,
  Use,
} from '../types.js';
import type { Value } from './values.js';

/** A call whose arguments may name an account or an event. */
export interface SeenCall {
  /** The global that is called, with the path of properties. */
  readonly name: string;
  readonly args: readonly Value[];
  readonly ranges: readonly Range[];
  readonly range: Range;
}

/** Markup that a script writes into the page. */
export interface WrittenMarkup {
  readonly html: string;
  readonly sure: Sureness;
  readonly range: Range;
  readonly when: Moment;
  /** With `document.write`, which the page waits for; otherwise into an element. */
  readonly isDocumentWrite: boolean;
}

/** Everything that was seen in the scripts of one paste; what they have in common are the globals. */
export class Record {
  readonly loads: Load[] = [];
  readonly defines: Definition[] = [];
  readonly uses: Use[] = [];
  readonly needs: NeededElement[] = [];
  readonly makes: MadeElement[] = [];
  readonly settings: Settings[] = [];
  readonly events: SentEvent[] = [];
  readonly storage: Stored[] = [];
  readonly boxes: FloatingBox[] = [];
  readonly calls: SeenCall[] = [];
  readonly written: WrittenMarkup[] = [];
  /** What the code has put on window so far. */
  readonly globals = new Map<string, Value>();
  readonly #used = new Set<string>();

  define(definition: Definition): void {
    const same = this.defines.find(
      ({ name, when, isStub }) =>
        name === definition.name && when === definition.when && isStub === definition.isStub,
    );
    if (!same) this.defines.push(definition);
  }

  use(use: Use): void {
    const key = `${use.name} ${use.when} ${String(use.isGuarded)}`;
    if (this.#used.has(key)) return;
    this.#used.add(key);
    this.uses.push(use);
  }

  need(need: NeededElement): void {
    const isKnown = this.needs.some(
      ({ selector, when, isGuarded }) =>
        selector === need.selector && when === need.when && isGuarded === need.isGuarded,
    );
    if (!isKnown) this.needs.push(need);
  }
}
