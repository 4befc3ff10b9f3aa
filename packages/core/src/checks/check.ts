import type { Placement } from '../insert/index.js';
import type { Box, DeliveryKey } from '../deliver/index.js';
import type { ConsentRules, Limits } from '../reach/index.js';
import type { Recipe } from '../recipes/index.js';
import type { PartPer, SnippetState } from '../snapshot/index.js';
import type { KnownFile } from '../survey/index.js';
import type { NamesIn, Params } from '../texts/index.js';
import type { CheckedSet } from './checked-set.js';
import type { Area, Found, Severity, Spot } from './finding.js';
import type { Tie } from './tie.js';

/** Something that is known of a site beside its set. */
export type Ask = 'survey' | 'files' | 'hosts' | 'recipes';

/** A snippet of an example, as far as the example needs it. */
export interface ExampleSnippet {
  readonly name: string;
  readonly parts: readonly {
    readonly placement: Placement;
    readonly code: string;
    readonly statement?: string;
    readonly per?: PartPer;
  }[];
  readonly state?: SnippetState;
  readonly include?: readonly string[];
  readonly exclude?: readonly string[];
  readonly limits?: Limits;
  readonly needs?: readonly string[];
  /** Key of the recipe that it follows, in its first version. */
  readonly recipe?: string;
}

/** What is said of one thing that a check finds. Patterns, see `formatMessage`. */
export interface FindingTexts {
  /** What was found, and where. */
  readonly title: string;
  /** What to do. */
  readonly advice: string;
  /** What its fix does, in one sentence. */
  readonly fix?: string;
}

/**
 * A rule over a set. After an edit only what the edit touches is looked at again: the snippets that differ, and those
 * that hang together with them by the ties of the check.
 */
export interface Check {
  /** Lower case and dashes; part of the API and of waivers, so it never changes. */
  readonly id: string;
  readonly area: Area;
  readonly severity: Severity;
  /** What it looks for, in a few words. */
  readonly title: string;
  /** Why that matters to the owner of a site. */
  readonly why: string;
  /** What it has to know beside the set to find all of it; nothing when left out. */
  readonly asks?: readonly Ask[];
  /** Whether what it finds can be fixed automatically, at least where nothing else stands in the way. */
  readonly isFixable: boolean;
  /** What it says, by id; part of the API. */
  readonly messages: Readonly<Record<string, FindingTexts>>;
  /** What the places of its evidence are, by role, in a few words. */
  readonly roles: Readonly<Record<string, string>>;
  /** Ids of checks whose findings follow from this one's where they are about one of its parts first, and are not told beside it. */
  readonly explains?: readonly string[];
  /** The same, of findings about nothing but the parts that this one's finding is about. */
  readonly explainsPairs?: readonly string[];
  readonly wrong: readonly ExampleSnippet[];
  readonly right: readonly ExampleSnippet[];
  /** Pages of the examples' site by path, where they matter. */
  readonly pages?: Readonly<Record<string, string>>;
  /** Headers that these pages come with, by names in lower case. */
  readonly headers?: Readonly<Record<string, string>>;
  /** Files that these pages load, by whole address. */
  readonly files?: readonly KnownFile[];
  /** Of these pages those that do not come through Pragmatica. */
  readonly undelivered?: readonly string[];
  /** The way in which their site's pages get their parts. @defaultValue gateway */
  readonly delivery?: DeliveryKey;
  /** The boxes of their site builder. */
  readonly boxes?: readonly Box[];
  /** How their site keeps what visitors agree to, where that matters. */
  readonly consent?: ConsentRules;
  /** What the examples take for granted that their code does not show, in one sentence. */
  readonly given?: string;
  /** Recipes that the examples follow. */
  readonly recipes?: readonly Recipe[];
  /** What makes it matter to one snippet what another is; nothing where each is looked at by itself. */
  readonly ties?: readonly Tie[];
  /**
   * What it finds about the snippets that it is shown; each finding is about some of them first. What it looks up in
   * others, it looks up in `near` and `whole`.
   */
  run?(set: CheckedSet): Iterable<Found>;
  /** What it finds about the set as a whole, however little was edited: it is to be quick. */
  runOnWhole?(set: CheckedSet): Iterable<Found>;
}

type TextsOf<Texts extends FindingTexts> =
  Texts['title'] | Texts['advice'] | (Texts extends { readonly fix: infer Fix extends string } ? Fix : never);

/** What a check with such messages may find: each message with the parameters that its texts name. */
type FoundOf<
  Messages extends Readonly<Record<string, FindingTexts>>,
  Roles extends Readonly<Record<string, string>>,
> = {
  readonly [Id in keyof Messages & string]: Omit<Found, 'message' | 'params' | 'evidence' | 'fix'> & {
    readonly message: Id;
    readonly params: Params<NamesIn<TextsOf<Messages[Id]>>> & Partial<Params<NamesIn<Roles[keyof Roles]>>>;
    readonly evidence: readonly Spot<keyof Roles & string>[];
    readonly fix?: Messages[Id] extends { readonly fix: string } ? Found['fix'] : never;
  };
}[keyof Messages & string];

/** A check whose findings are held against its messages: an id or a parameter that is not there does not compile. */
export function defineCheck<
  const Messages extends Readonly<Record<string, FindingTexts>>,
  const Roles extends Readonly<Record<string, string>> = Record<never, string>,
>(
  check: Omit<Check, 'messages' | 'roles' | 'run' | 'runOnWhole'> & {
    readonly messages: Messages;
    readonly roles?: Roles;
    run?(set: CheckedSet): Iterable<FoundOf<Messages, Roles>>;
    runOnWhole?(set: CheckedSet): Iterable<FoundOf<Messages, Roles>>;
  },
): Check {
  return { roles: {}, ...check };
}
