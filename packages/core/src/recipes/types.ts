import type { PartPer } from '../snapshot/index.js';
import type { FieldType } from '../fields/index.js';
import type { Placement } from '../insert/index.js';
import type { EnvironmentName } from '../reach/index.js';

export const RECIPE_FORMAT = 'pragmatica-recipe/1';

/** A value that somebody who applies the recipe is asked for. */
export interface RecipeField {
  readonly name: string;
  readonly type: FieldType;
  readonly label: string;
  /** Where to find it, in one sentence. */
  readonly help?: string;
  /** The provider's own example; a site that is left at it cannot be published. */
  readonly example?: string;
  /** What most sites take. */
  readonly default?: string;
}

/** A piece of the install. */
export interface RecipePart {
  /** Names the piece for as long as the recipe has it, over all its versions. */
  readonly key: string;
  readonly placement: Placement;
  /** Fields are written `@{name}`. */
  readonly code: string;
  /** What the provider says of where it goes, word for word. */
  readonly statement?: string;
  /** How often it runs; left out for once a page load. */
  readonly per?: PartPer;
  /** Without it the install does not work. */
  readonly required: boolean;
}

/** Something that has to be done at the provider, where Pragmatica cannot do or see it. */
export interface RecipeStep {
  /** Names the step over all versions: what was ticked stays ticked. */
  readonly key: string;
  /** What to do; `{host}` stands for the host. */
  readonly title: string;
  readonly help?: string;
  /** Once for a site, or for each of its hosts. */
  readonly per: 'site' | 'host';
  /** Only for hosts of this environment. */
  readonly environment?: EnvironmentName;
  /** What is wrong while it is not done: "{host} is not registered with Parlanook". */
  readonly open: string;
}

/** What in code tells that it is this install, applied or pasted by hand. One of them is enough. */
export interface Recognition {
  /** Hosts that scripts come from; `*.crateline.example` for all below one. */
  readonly hosts: readonly string[];
  /** URLPattern strings of addresses that are loaded. */
  readonly addresses: readonly string[];
  /** Global names that the code makes. */
  readonly globals: readonly string[];
}

export const FLOATING_CORNERS = [
  'top left',
  'top right',
  'bottom left',
  'bottom right',
  'left',
  'right',
  'top edge',
  'bottom edge',
  'whole page',
] as const;
export type FloatingCorner = (typeof FLOATING_CORNERS)[number];

/** How to install one thing, told once; applied to any number of sites. A version of it never changes. */
export interface Recipe {
  readonly format: typeof RECIPE_FORMAT;
  readonly key: string;
  readonly version: number;
  readonly name: string;
  readonly provider: string;
  /** What it is for, in one sentence. */
  readonly summary: string;
  /** What is new in this version. */
  readonly changes?: string;
  readonly parts: readonly RecipePart[];
  readonly fields: readonly RecipeField[];
  /** Keys of the recipes whose snippets must run before. */
  readonly after: readonly string[];
  readonly recognise: Recognition;
  readonly steps: readonly RecipeStep[];
  /** Whether it may stand twice on a page. */
  readonly repeatable: boolean;
  /** Where it floats over the page, when its own script makes the box; left out where it does not float. */
  readonly floats?: FloatingCorner;
  /** Its provider gives it up, or there is something better. */
  readonly retired?: {
    readonly reason: string;
    /** Key of the recipe to take instead. */
    readonly replacedBy?: string;
  };
}

/** That somebody did a step. */
export interface StepTick {
  /** Keys of the recipe and the step. */
  readonly recipe: string;
  readonly step: string;
  /** Empty where the step is for the whole site. */
  readonly host: string;
  readonly by: string;
  readonly at: string;
}
