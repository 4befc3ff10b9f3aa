import { memoizeByObject } from '../memoize/by-object.js';
import { isLimited } from '../reach/index.js';
import {
  broughtDefinition,
  broughtNames,
  isAboutSettings,
  plainName,
  providerWords,
  settingsWords,
  type Definition,
  type Facts,
  type Load,
  type MadeElement,
  type ExecutionPhase,
  type NeededElement,
  type Settings,
  type Use,
} from '../facts/index.js';
import type { PlacedPart } from '../snapshot/index.js';
import { happensBefore, isDecidedByOrder, type Precedence } from './running-order.js';

/** A part whose code was read. */
export interface OrderPart extends PlacedPart {
  readonly facts: Facts;
  /** Grows from part to part of the set, in page order. */
  readonly position: number;
}

/** What the order is worked out from. */
export interface OrderSet<P extends OrderPart = OrderPart> {
  /** Parts of snippets that are on, in page order. */
  readonly running: readonly P[];
  /** A page on which both run; undefined where none is known. */
  meeting(a: P, b: P): string | undefined;
  /** Keys of the snippets that must run before a part's, as its recipe says. */
  recipeNeeds?(part: P): readonly string[];
  /** Whether it is known what a file does: what it is called then tells nothing more. */
  isRead?(load: Load): boolean;
}

/** Why one part must come before another. */
export type DependencyReason =
  | { readonly kind: 'name'; readonly name: string; readonly use: Use; readonly definition: Definition }
  | {
      readonly kind: 'element';
      readonly id: string;
      readonly need: NeededElement;
      readonly made: MadeElement;
    }
  | { readonly kind: 'settings'; readonly name: string; readonly settings: Settings; readonly load: Load }
  | { readonly kind: 'stated' }
  /** As the recipe of the one that needs says. */
  | { readonly kind: 'recipe' };

/** Surely in order, in order at some page loads only, or surely not. */
export type Verdict = 'fine' | 'race' | 'wrong';

/** That one part needs another to have run. */
export interface Dependency<P extends OrderPart = OrderPart> {
  readonly first: P;
  readonly then: P;
  readonly reason: DependencyReason;
  readonly verdict: Verdict;
  /** The order of the two parts decides; where it does not, moving them does not help. */
  readonly isByOrder: boolean;
}

/** What it comes to that something happens before another. */
export const VERDICTS: Readonly<Record<Precedence, Verdict>> = {
  always: 'fine',
  maybe: 'race',
  never: 'wrong',
};

/**
 * All that running parts of a set need of each other, in page order of those that need.
 *
 * @param of - the parts that need, all of the set when left out
 */
export function findDependencies<P extends OrderPart>(
  set: OrderSet<P>,
  of: readonly P[] = set.running,
): Dependency<P>[] {
  const index = new SetIndex(set);
  return of.flatMap((part) => [
    ...ofNames(set, index, part),
    ...ofElements(set, index, part),
    ...ofSettings(set, index, part),
    ...ofStatements(set, index, part),
  ]);
}

interface Made<P, T> {
  readonly part: P;
  readonly thing: T;
}

/** Who makes what; so that each part is looked at once and not with every other. */
class SetIndex<P extends OrderPart> {
  readonly definitions = new Map<string, Made<P, Definition>[]>();
  /** Files by what they are called. */
  readonly #files = new Map<string, Made<P, Load>[]>();
  readonly elements = new Map<string, Made<P, MadeElement>[]>();
  /** By the words that tell whose they are. */
  readonly settings = new Map<string, Made<P, Settings>[]>();
  readonly settingsOfSnippet = new Map<string, Made<P, Settings>[]>();
  readonly scriptsOfSnippet = new Map<string, Load[]>();
  readonly mains = new Map<string, P>();

  constructor(set: OrderSet<P>) {
    for (const part of set.running) {
      for (const thing of part.facts.defines) push(this.definitions, thing.name, { part, thing });
      for (const thing of part.facts.makes)
        if (thing.by === 'tag') push(this.elements, thing.id, { part, thing });
      for (const thing of part.facts.settings) {
        for (const word of wordsOf(thing)) push(this.settings, word, { part, thing });
        push(this.settingsOfSnippet, part.snippet.key, { part, thing });
      }
      for (const load of part.facts.loads)
        if (isScript(load)) {
          push(this.scriptsOfSnippet, part.snippet.key, load);
          if (set.isRead?.(load) === true) continue;
          for (const name of broughtNames(load)) push(this.#files, name, { part, thing: load });
        }
      if (!this.mains.has(part.snippet.key) && !isFallback(part)) this.mains.set(part.snippet.key, part);
    }
  }

  /** What makes a name; where nothing is known to, files that are called so. */
  makersOf(name: string): readonly Made<P, Definition>[] {
    return (
      this.definitions.get(name) ??
      this.#files
        .get(plainName(name))
        ?.map(({ part, thing }) => ({ part, thing: broughtDefinition(thing, name, 'guess') })) ??
      []
    );
  }
}

function push<T>(lists: Map<string, T[]>, key: string, item: T): void {
  const list = lists.get(key);
  if (list) list.push(item);
  else lists.set(key, [item]);
}

/** Whether all that a part loads is for browsers without scripts. */
export function isFallback({ facts }: Pick<OrderPart, 'facts'>): boolean {
  return isForScriptless(facts);
}

const isForScriptless = memoizeByObject(
  ({ loads }: Facts) => loads.length > 0 && loads.every(({ noScript }) => noScript),
);

/** Each name is asked for once, by the use that comes earliest. */
function* ofNames<P extends OrderPart>(
  set: OrderSet<P>,
  index: SetIndex<P>,
  part: P,
): Generator<Dependency<P>> {
  const asked = new Map<string, Use>();
  for (const use of part.facts.uses) {
    if (use.isGuarded) continue;
    if (isBroughtByLoader(part, use) && !isCalledElsewhere(index.makersOf(use.name), part)) continue;
    const earlier = asked.get(use.name);
    if (!earlier || MOMENTS.indexOf(use.when) < MOMENTS.indexOf(earlier.when)) asked.set(use.name, use);
  }
  for (const [name, use] of asked) {
    const makers = index
      .makersOf(name)
      .filter(({ part: maker }) => maker === part || set.meeting(part, maker) !== undefined);
    if (makers.some((maker) => maker.part === part)) continue;
    const all = makers.map((maker) => {
      const definition = maker.thing;
      const reason = { kind: 'name', name, use, definition } as const;
      return dependency(maker.part, definition.when, part, use.when, reason);
    });
    // One that is in order is enough; otherwise the one that is easiest to put in order.
    const best =
      all.find(({ verdict }) => verdict === 'fine') ??
      all.find(({ isByOrder }) => isByOrder) ??
      all.find(({ verdict }) => verdict === 'race') ??
      all[0];
    if (best) yield best;
  }
}

const MOMENTS: readonly ExecutionPhase[] = ['parse', 'deferred', 'async', 'later'];

/** A script that a part loads may bring any name; what comes from there cannot be known. */
export function isBroughtByLoader({ facts }: Pick<OrderPart, 'facts'>, use: Use): boolean {
  return facts.loads.some(({ kind, range }) => kind === 'script' && range.start < use.range.start);
}

/** Whether files are called like a name, none of them a part's own. */
function isCalledElsewhere<P extends OrderPart>(makers: readonly Made<P, Definition>[], part: P): boolean {
  return (
    makers.length > 0 &&
    makers.every((maker) => maker.thing.confidence === 'guess' && maker.part.snippet !== part.snippet)
  );
}

/** Elements that another part writes into the page. */
function* ofElements<P extends OrderPart>(
  set: OrderSet<P>,
  { elements }: SetIndex<P>,
  part: P,
): Generator<Dependency<P>> {
  const asked = new Set<string>();
  for (const need of part.facts.needs) {
    const { id } = need;
    if (id === undefined || need.isGuarded || need.own !== undefined || asked.has(id)) continue;
    asked.add(id);
    const maker = (elements.get(id) ?? []).find(({ part: other }) => set.meeting(part, other) !== undefined);
    if (maker && maker.part !== part)
      yield dependency(maker.part, 'parse', part, need.when, {
        kind: 'element',
        id,
        need,
        made: maker.thing,
      });
  }
}

const providersOf = memoizeByObject(({ address }: Load) => providerWords(address));
const wordsOf = memoizeByObject(({ name }: Settings) => settingsWords(name));

function isScript({ kind, noScript }: Load): boolean {
  return kind === 'script' && !noScript;
}

/** Settings that stand in another part than the script that reads them. */
function* ofSettings<P extends OrderPart>(
  set: OrderSet<P>,
  { settings, settingsOfSnippet, scriptsOfSnippet }: SetIndex<P>,
  part: P,
): Generator<Dependency<P>> {
  const reported = new Set<Settings>();
  for (const load of part.facts.loads) {
    if (!isScript(load)) continue;
    const own = (settingsOfSnippet.get(part.snippet.key) ?? []).filter(({ thing }) =>
      isAboutSettings(thing.name, load.address),
    );
    // Between snippets only the provider's own name counts, for many settings are called after what they are for; and
    // only where one has nothing but the script, and the other nothing but the settings.
    const ofOthers = providersOf(load)
      .flatMap((word) => settings.get(word) ?? [])
      .filter(
        ({ part: holder, thing }) =>
          scriptsOfSnippet
            .get(holder.snippet.key)
            ?.some(({ address }) => isAboutSettings(thing.name, address)) !== true,
      );
    const candidates = own.length > 0 ? own : ofOthers;
    for (const { part: holder, thing } of candidates) {
      if (holder === part || reported.has(thing) || set.meeting(part, holder) === undefined) continue;
      reported.add(thing);
      const reads: ExecutionPhase =
        load.mode === 'async' ? 'async' : load.mode === 'blocking' ? load.when : 'deferred';
      const reason = { kind: 'settings', name: thing.name, settings: thing, load } as const;
      yield dependency(holder, 'parse', part, reads, reason);
    }
  }
}

/** What people say must come first, between the pieces that matter: those for browsers without scripts do not. */
function* ofStatements<P extends OrderPart>(
  set: OrderSet<P>,
  { mains }: SetIndex<P>,
  part: P,
): Generator<Dependency<P>> {
  if (mains.get(part.snippet.key) !== part) return;
  const stated = part.snippet.needs ?? [];
  const byRecipe = (set.recipeNeeds?.(part) ?? []).filter((key) => !stated.includes(key));
  for (const [kind, keys] of [['stated', stated] as const, ['recipe', byRecipe] as const])
    for (const key of keys) {
      const first = mains.get(key);
      if (first && first !== part && set.meeting(part, first) !== undefined)
        yield dependency(first, 'parse', part, 'parse', { kind });
    }
}

function dependency<P extends OrderPart>(
  first: P,
  firstWhen: ExecutionPhase,
  then: P,
  thenWhen: ExecutionPhase,
  reason: DependencyReason,
): Dependency<P> {
  const [firstMoment, thenMoment] = [momentOf(first, firstWhen, then), momentOf(then, thenWhen, first)];
  const precedence = happensBefore(
    { when: firstMoment, position: first.position, placement: first.part.placement },
    { when: thenMoment, position: then.position, placement: then.part.placement },
  );
  return {
    first,
    then,
    reason,
    verdict: VERDICTS[precedence],
    isByOrder: isDecidedByOrder(firstMoment, thenMoment),
  };
}

/** What waits in the visitor's browser comes later than it would; pieces of one snippet wait together. */
function momentOf(part: OrderPart, when: ExecutionPhase, other: OrderPart): ExecutionPhase {
  return part.snippet !== other.snippet && isLimited(part.snippet.limits?.visitor) ? 'later' : when;
}
