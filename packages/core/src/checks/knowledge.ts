import type { PageSkeleton } from '../contain/index.js';
import type { Box, DeliveryKey } from '../deliver/index.js';
import type { FactsCache } from '../facts/index.js';
import type { PagePolicies } from '../policy/index.js';
import type { EnvironmentName } from '../reach/index.js';
import type { RecipeBook, StepTick } from '../recipes/index.js';
import type { AbsentPart, ComposedPages, KnownFile, SeenSighting, Sighting } from '../survey/index.js';

/** What is known of the site beside its set. */
export interface Knowledge {
  /** Paths of the site's pages. */
  readonly paths?: readonly string[];
  /** The site's hosts; the gateway's where nothing else is said of them. */
  readonly hosts?: readonly KnownHost[];
  /** The boxes of the site builder, for blocks to paste. */
  readonly boxes?: readonly Box[];
  /** Where the one line is loaded from. */
  readonly lineAddress?: string;
  /** What time it is: only what comes after it counts. Milliseconds since 1970. */
  readonly now?: number;
  /** What the site's own pages are made of, each kind once. */
  readonly skeletons?: readonly PageSkeleton[];
  /** The recipes that there are. */
  readonly book?: RecipeBook;
  /** What was ticked off of what is to be done at providers. */
  readonly ticks?: readonly StepTick[];
  /** What a survey saw in the pages. */
  readonly seen?: readonly KnownSighting[];
  /** Keys of those that somebody ignores: nothing is said of them, though they still do what they do. */
  readonly ignored?: readonly string[];
  /** Parts that a survey missed on pages where the live release should put them. */
  readonly absent?: readonly AbsentPart[];
  /** Policies that pages come with. */
  readonly policies?: readonly KnownPolicies[];
  /** What a survey saw, by pages of one make; those of most pages, where there are very many. */
  readonly groups?: readonly ComposedPages[];
  /** The site has more pages than those that are known. */
  readonly hasMorePages?: boolean;
  /** Scripts and style sheets that the pages load. */
  readonly files?: KnownFiles;
  /** Facts that were read before; kept from run to run, only new code is read. */
  readonly memory?: FactsCache;
}

export interface KnownHost {
  readonly host: string;
  readonly environment: EnvironmentName;
  readonly delivery?: DeliveryKey;
}

/** A sighting, with where it stands. */
export interface KnownSighting extends Sighting {
  /** The page that its code was taken from. */
  readonly firstPath: string;
  readonly seen: SeenSighting;
}

/** Policies that some pages come with, all of them together. */
export interface KnownPolicies extends PagePolicies {
  /** Scheme, host and port of the pages. */
  readonly address: string;
  /** The first of the pages. */
  readonly paths: readonly string[];
}

/** Files that pages load, and the address of the site, against which addresses in its pages count. */
export interface KnownFiles {
  readonly base: string;
  readonly files: readonly KnownFile[];
}
