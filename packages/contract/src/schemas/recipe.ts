import {
  FIELD_NAME,
  FIELD_TYPES,
  FLOATING_CORNERS,
  RECIPE_FORMAT,
  formatMessage,
  recipeProblems,
  type Recipe,
} from '@pragmatica/core';
import { z } from 'zod';
import {
  code,
  environment,
  key,
  nextPage,
  placement,
  snippetState,
  partPer,
  statement,
  text,
  timestamp,
  title,
} from './common.js';
import { siteResults } from './field.js';
import { boundedRecord } from './bounds.js';
import { FIELD_TEXTS } from '../texts/field-texts.js';
import { says } from './says.js';

const fieldName = z.string().max(40).regex(FIELD_NAME, says('fieldName'));
const value = z.string().max(500);
const sentence = z.string().trim().min(1).max(500);

const recipeField = z.strictObject({
  name: fieldName.meta({ description: 'As it stands in code: `@{name}`.' }),
  type: z.enum(FIELD_TYPES),
  label: title.meta({ description: 'What people are asked for.' }),
  help: text.optional().meta({ description: 'Where to find it.' }),
  example: value
    .optional()
    .meta({ description: 'The provider’s own example; a site that is left at it cannot be published.' }),
  default: value.optional().meta({ description: 'What most sites take.' }),
});

const recipePart = z.strictObject({
  key: key.meta({ description: 'Names the piece over all versions of the recipe.' }),
  placement,
  code: code.meta({ description: 'Fields are written `@{name}`.' }),
  statement: statement.optional(),
  per: partPer.optional(),
  required: z.boolean().default(true).meta({ description: 'Without it the install does not work.' }),
});

const recipeStep = z.strictObject({
  key: key.meta({ description: 'Names the step over all versions: what was ticked stays ticked.' }),
  title: sentence.meta({ description: 'What to do; `{host}` stands for the host.' }),
  help: text.optional(),
  per: z.enum(['site', 'host']).default('site').meta({ description: 'Once, or for each of a site’s hosts.' }),
  environment: environment.optional().meta({ description: 'Only for hosts of this environment.' }),
  open: sentence.meta({
    description: 'What is wrong while it is not done.',
    example: '{host} is not registered with Parlanook',
  }),
});

const recognition = z
  .strictObject({
    hosts: z
      .array(
        z
          .string()
          .max(260)
          .regex(/^(?:\*\.)?[a-z0-9.-]{1,253}$/, says('recipeHostForm')),
      )
      .max(50)
      .default([]),
    addresses: z
      .array(z.string().min(1).max(500))
      .max(50)
      .default([])
      .meta({ description: 'URLPattern strings of addresses that are loaded.' }),
    globals: z
      .array(z.string().min(1).max(200))
      .max(50)
      .default([])
      .meta({ description: 'Global names that the code makes.' }),
  })
  .meta({ description: 'What in code tells that it is this install; one of them is enough.' });

const NOTHING = { hosts: [], addresses: [], globals: [] };
const MAX_COUNT = 50;

/** The open format of a recipe: one version of it. */
export const recipe = z
  .strictObject({
    format: z.literal(RECIPE_FORMAT, {
      error: () => formatMessage(FIELD_TEXTS.formatOther, { format: RECIPE_FORMAT }),
    }),
    key,
    version: z.int().min(1).max(1_000_000).meta({ description: 'From 1; a version never changes.' }),
    name: title,
    provider: title,
    summary: sentence.meta({ description: 'What it is for.' }),
    changes: sentence.optional().meta({ description: 'What is new in this version.' }),
    parts: z.array(recipePart).min(1, says('recipeParts')).max(20),
    fields: z.array(recipeField).max(MAX_COUNT).default([]),
    after: z
      .array(key)
      .max(MAX_COUNT)
      .default([])
      .meta({ description: 'Keys of the recipes whose snippets must run before.' }),
    recognise: recognition.default(NOTHING),
    steps: z
      .array(recipeStep)
      .max(MAX_COUNT)
      .default([])
      .meta({ description: 'What has to be done at the provider.' }),
    repeatable: z.boolean().default(false).meta({ description: 'Whether it may stand twice on a page.' }),
    floats: z
      .enum(FLOATING_CORNERS)
      .optional()
      .meta({ description: 'Where it floats over the page, when its own script makes the box.' }),
    retired: z
      .strictObject({ reason: sentence, replacedBy: key.optional() })
      .optional()
      .meta({ description: 'Given up, why, and which recipe takes its place.' }),
  })
  .superRefine((given, context) => {
    for (const { path, message } of recipeProblems(given))
      context.addIssue({ code: 'custom', path: [...path], message });
  })
  .meta({
    id: 'Recipe',
    title: 'Pragmatica recipe',
    description: 'How to install one thing, told once; applied to any number of sites.',
  }) satisfies z.ZodType<Recipe>;
export type RecipeInput = z.input<typeof recipe>;

/** The published JSON Schema (draft 2020-12) of a recipe file. */
export function recipeJsonSchema(): Record<string, unknown> {
  const { id: _, ...schema } = z.toJSONSchema(recipe, {
    io: 'input',
    unrepresentable: 'any',
    reused: 'inline',
  }) as Record<string, unknown>;
  return { ...schema, $id: `urn:pragmatica:schema:${RECIPE_FORMAT.replace('/', ':')}` };
}

export const recipeLink = z
  .strictObject({
    key,
    version: z.int(),
    fields: boundedRecord(z.string().max(40), z.string().max(40), MAX_COUNT).meta({
      description: 'What the recipe’s fields are called at the site.',
    }),
  })
  .meta({ description: 'The version of a recipe that the snippet follows.' });

const recipeUse = z
  .object({
    site: z.string(),
    siteName: z.string(),
    snippet: z.string(),
    name: z.string(),
    state: snippetState,
    version: z.int().nullable().meta({ description: 'Null where it was pasted by hand and recognised.' }),
    isBehind: z.boolean(),
  })
  .meta({ description: 'A snippet of a draft that is an install of the recipe.' });
export type RecipeUseResource = z.infer<typeof recipeUse>;

const recipeVersion = z.object({
  version: z.int(),
  by: z.string(),
  at: timestamp,
  changes: z.array(z.string()).meta({ description: 'What it changed, in words.' }),
});

/** A recipe with all that is known of it. */
export const recipeResource = z
  .object({
    recipe: recipe.meta({ description: 'Its newest version.' }),
    versions: z.array(recipeVersion).meta({ description: 'The newest first.' }),
    uses: z.array(recipeUse),
  })
  .meta({ id: 'RecipeResource' });
export type RecipeResource = z.infer<typeof recipeResource>;

/** A recipe as lists show it. */
export const recipeSummary = z
  .object({
    recipe: recipe.meta({ description: 'Its newest version.' }),
    installs: z.int().meta({ description: 'Snippets of drafts that are installs of it.' }),
    behind: z.int().meta({ description: 'How many of them follow an older version.' }),
  })
  .meta({ id: 'RecipeSummary' });
export type RecipeSummary = z.infer<typeof recipeSummary>;

export const recipeList = z.object({
  items: z.array(recipeSummary),
  next: nextPage,
  all: z.int().meta({ description: 'How many recipes have the words.' }),
  behind: z.int().meta({ description: 'Snippets that follow an older version, of all recipes.' }),
});

export const recipeImported = recipeResource.extend({
  isNew: z.boolean().meta({ description: 'False where this very version was there already.' }),
});

const givenValue = z.strictObject({
  name: fieldName,
  environment: environment.optional().meta({ description: 'Both when left out.' }),
  value,
});

export const recipeApplication = z
  .strictObject({
    name: title.optional().meta({ description: 'What the snippet is called; as the recipe when left out.' }),
    key: key.optional(),
    state: snippetState.default('on'),
    targets: z
      .array(z.strictObject({ site: key, values: z.array(givenValue).max(200).default([]) }))
      .min(1, says('siteMissing'))
      .max(200),
  })
  .meta({ id: 'RecipeApplication', description: 'Each site by itself, with its own values.' });
export type RecipeApplication = z.input<typeof recipeApplication>;

export const recipeMaking = z
  .strictObject({
    key: key.optional().meta({ description: 'Made from the name when left out.' }),
    name: title.optional().meta({ description: 'As the snippet when left out.' }),
    changes: sentence.optional().meta({ description: 'What is new, for a next version.' }),
    preview: z.boolean().default(false).meta({ description: 'Only show the recipe.' }),
  })
  .meta({ id: 'RecipeMaking' });

const snippetOfSite = z.object({ site: z.string(), snippet: z.string() });

export const recipeUpdate = snippetOfSite
  .extend({
    siteName: z.string(),
    name: z.string(),
    recipe: z.string(),
    recipeName: z.string(),
    from: z.int(),
    to: z.int(),
    news: z.array(z.string()).meta({ description: 'What the newer version changes, in words.' }),
    changes: z.array(z.string()).meta({ description: 'What changes in the site’s draft, in words.' }),
    code: z.array(z.object({ part: z.string(), before: z.string(), after: z.string() })),
    replaced: z.array(z.string()).meta({ description: 'What was changed by hand and would be replaced.' }),
  })
  .meta({
    id: 'RecipeUpdate',
    description: 'A snippet that is behind, and what bringing it up would change.',
  });
export type RecipeUpdate = z.infer<typeof recipeUpdate>;

export const recipeUpdateInput = z
  .strictObject({
    snippets: z
      .array(z.strictObject({ site: key, snippet: key }))
      .min(1, says('snippetsOrAll'))
      .max(10_000)
      .optional()
      .meta({ description: 'All that are behind when left out.' }),
    replaceEdits: z
      .boolean()
      .default(false)
      .meta({ description: 'Also where the recipe replaces what was changed by hand.' }),
  })
  .meta({ id: 'RecipeUpdateInput' });

export const recipeUpdateResults = z.object({
  items: z.array(siteResults.shape.items.element.extend({ snippet: z.string() })),
});

export const checklistItem = z
  .object({
    recipe: z.string(),
    recipeName: z.string(),
    step: z.string(),
    host: z.string().meta({ description: 'Empty where the step is for the whole site.' }),
    title: z.string(),
    help: z.string(),
    open: z.string().meta({ description: 'What is wrong while it is not done.' }),
    snippets: z.array(z.object({ key: z.string(), name: z.string() })),
    tick: z.object({ by: z.string(), at: timestamp }).nullable(),
  })
  .meta({ id: 'ChecklistItem', description: 'Something that has to be done at a provider.' });
export type ChecklistItemResource = z.infer<typeof checklistItem>;

export const tickInput = z
  .strictObject({
    recipe: key,
    step: key,
    host: z.string().max(253).default(''),
    done: z.boolean(),
  })
  .meta({ id: 'TickInput' });
