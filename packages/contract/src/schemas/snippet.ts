import { z } from 'zod';
import { code, key, partPer, placement, snippetState, statement, text, timestamp, title } from './common.js';
import { recipeLink } from './recipe.js';
import { limits, pages } from './reach.js';
import { says } from './says.js';

export const part = z.object({ placement, rank: z.int().min(0), code, statement, per: partPer });

const needs = z
  .array(key)
  .max(50)
  .meta({ description: 'Keys of the snippets that must run before this one.' });

export const snippet = z
  .object({
    key,
    name: title,
    purpose: text,
    provider: text,
    note: text,
    state: snippetState,
    pages,
    limits: limits.meta({ description: 'Empty where nothing but the pages bounds its reach.' }),
    needs,
    recipe: recipeLink.nullable().meta({ description: 'Null where it was not made by a recipe.' }),
    parts: z.array(part),
    version: z.int(),
    updatedBy: z.string(),
    updatedAt: timestamp,
  })
  .meta({ id: 'Snippet', description: 'One installation of one thing, in one or more parts.' });
export type SnippetResource = z.infer<typeof snippet>;

const partInput = z.strictObject({
  placement,
  code,
  statement: statement.optional(),
  per: partPer.optional(),
});
const MAX_PARTS = 20;
const MAX_PARTS_OF_SITE = 20_000;
const MAX_PLACEMENTS = 1_000;

export const snippetInput = z
  .strictObject({
    key: key.optional().meta({ description: 'Made from the name when left out.' }),
    name: title,
    purpose: text.default(''),
    provider: text.default(''),
    note: text.default(''),
    state: snippetState.default('on'),
    pages: pages.default({ include: [], exclude: [] }),
    limits: limits.default({}),
    needs: needs.default([]),
    parts: z.array(partInput).min(1, says('snippetParts')).max(MAX_PARTS),
  })
  .meta({ id: 'SnippetInput' });
export type SnippetInput = z.input<typeof snippetInput>;

export const snippetPatch = z
  .strictObject({
    name: title,
    purpose: text,
    provider: text,
    note: text,
    state: snippetState,
    pages,
    limits,
    needs,
    recipe: z.null().meta({ description: 'Null lets go of the recipe; the code stays as it is.' }),
    parts: z.array(partInput).min(1, says('snippetParts')).max(MAX_PARTS),
  })
  .partial()
  .meta({ id: 'SnippetPatch', description: 'JSON merge patch (RFC 7396); lists are replaced whole.' });
export type SnippetPatch = z.input<typeof snippetPatch>;

/** One state for several snippets, all of them or none. */
export const stateChange = z
  .strictObject({ snippets: z.array(key).min(1, says('snippetMissing')).max(500), state: snippetState })
  .meta({ id: 'StateChange' });

/** One placement for several snippets. */
export const placementChange = z
  .strictObject({ snippets: z.array(key).min(1, says('snippetMissing')).max(500), placement })
  .meta({ id: 'PlacementChange' });

export const placementsChanged = z.object({
  moved: z.array(key),
  left: z
    .array(key)
    .meta({ description: 'Those whose parts stand in several places: each of them has its own.' }),
});

export const orderLists = z
  .strictObject({
    lists: z
      .array(z.strictObject({ placement, parts: z.array(z.string().max(80)).max(MAX_PARTS_OF_SITE) }))
      .max(MAX_PLACEMENTS),
  })
  .meta({
    id: 'Order',
    description: 'Part keys (`snippet/number`) in the order in which they run, by placement.',
  });
