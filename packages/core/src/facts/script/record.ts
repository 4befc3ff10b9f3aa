import type {
  AskedFeature,
  Definition,
  Facts,
  FloatingBox,
  Load,
  MadeElement,
  ExecutionPhase,
  NeededElement,
  PageChange,
  Range,
  Reset,
  SentEvent,
  ScriptlessFrame,
  Settings,
  Sink,
  Slot,
  Stored,
  Target,
  Confidence,
  Use,
} from '../types.js';
import { TooMuchError } from '../../bounds/too-much.js';
import type { Value } from './values.js';

/** Characters of markup that the scripts of one paste write. */
const MAX_WRITTEN = 1 << 20;

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
  readonly confidence: Confidence;
  readonly range: Range;
  readonly when: ExecutionPhase;
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
  readonly slots: Slot[] = [];
  readonly targets: Target[] = [];
  readonly pageChanges: PageChange[] = [];
  readonly sinks: Sink[] = [];
  readonly features: AskedFeature[] = [];
  readonly scriptlessFrames: ScriptlessFrame[] = [];
  readonly resets: Reset[] = [];
  readonly settings: Settings[] = [];
  readonly events: SentEvent[] = [];
  readonly storage: Stored[] = [];
  readonly boxes: FloatingBox[] = [];
  readonly calls: SeenCall[] = [];
  readonly written: WrittenMarkup[] = [];
  /** Calls of `document.write`. */
  readonly writes: Facts['writes'][number][] = [];
  /** What the code has put on window so far. */
  readonly globals = new Map<string, Value>();
  readonly #seen = new Set<string>();
  #writtenLength = 0;

  define(definition: Definition): void {
    const { name, when, isStub } = definition;
    if (this.#isNew('define', name, when, isStub)) this.defines.push(definition);
  }

  use(use: Use): void {
    if (this.#isNew('use', use.name, use.when, use.isGuarded)) this.uses.push(use);
  }

  reset(reset: Reset): void {
    if (this.#isNew('reset', reset.name, reset.when, false)) this.resets.push(reset);
  }

  need(need: NeededElement): void {
    if (this.#isNew('need', need.selector, need.when, need.isGuarded)) this.needs.push(need);
  }

  /** Markup that a script writes is read again, so there is a bound to how much of it is. */
  write(written: WrittenMarkup): void {
    this.#writtenLength += written.html.length;
    if (this.#writtenLength > MAX_WRITTEN) throw new TooMuchError('length');
    this.written.push(written);
    this.sink('markup', written.range);
  }

  sink(kind: Sink['kind'], range: Range): void {
    if (this.#isNew('sink', kind, 'parse', false)) this.sinks.push({ kind, range, confidence: 'certain' });
  }

  /** @param frame - address of the frame that is to have it; for the page itself when left out */
  ask(feature: string, range: Range, frame?: string): void {
    if (!this.#isNew('ask', `${feature} ${frame ?? ''}`, 'parse', false)) return;
    this.features.push({ feature, ...(frame === undefined ? {} : { frame }), range, confidence: 'certain' });
  }

  #isNew(what: string, name: string, when: ExecutionPhase, flag: boolean): boolean {
    const key = `${what} ${when} ${String(flag)} ${name}`;
    if (this.#seen.has(key)) return false;
    this.#seen.add(key);
    return true;
  }
}
