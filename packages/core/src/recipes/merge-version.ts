import type { Field } from '../fields/index.js';
import { placementKey, placementWords } from '../insert/index.js';
import type { SnapshotPart, SnapshotSnippet } from '../snapshot/index.js';
import type { UnrankedSnippet } from '../edit/index.js';
import { addFields, toPart } from './apply.js';
import { matchPieces } from './pieces.js';
import type { SiteNames } from './site-names.js';
import type { Recipe, RecipeField, RecipePart } from './types.js';
import { RECIPES_TEXTS } from '../texts/recipes.js';
import { say } from '../texts/say.js';

type Part = Omit<SnapshotPart, 'rank'>;

/** A snippet brought up to another version of its recipe. */
export interface VersionMerge {
  readonly snippet: UnrankedSnippet;
  /** All fields of the site as they are then. */
  readonly fields: readonly Field[];
  /** What somebody changed by hand and the recipe changes, too: there the recipe's goes before. In words. */
  readonly replaced: readonly string[];
}

/**
 * Brings a snippet from one version of its recipe to another, part by part: what only the recipe changed is taken, what
 * only people changed stays, and where both did the recipe's is taken and told.
 */
export function mergeVersion(
  snippet: SnapshotSnippet,
  from: Recipe,
  to: Recipe,
  at: SiteNames,
): VersionMerge {
  const link = snippet.recipe!;
  const { names, fields } = addFields(to.fields, link.fields, snippet.key, at);
  const indices = matchPieces(from, snippet.parts, link.fields);
  const replaced: string[] = [];
  const parts: Part[] = [];
  const ofPiece = new Map(from.parts.map((piece, i) => [piece.key, { piece, index: indices[i] }]));
  for (const piece of to.parts) {
    const was = ofPiece.get(piece.key);
    const part = was?.index === undefined ? undefined : snippet.parts[was.index];
    const next = toPart(piece, names);
    if (was && !part && !isChanged(was.piece, piece)) continue; // Somebody took it out; the recipe has not touched it.
    parts.push(was && part ? merged(part, toPart(was.piece, link.fields), next, replaced) : next);
  }
  for (const [index, part] of snippet.parts.entries()) {
    const at = indices.indexOf(index);
    if (at < 0)
      parts.push(withoutRank(part)); // Not the recipe's: it stays.
    else if (!to.parts.some(({ key }) => key === from.parts[at]!.key)) {
      const was = toPart(from.parts[at]!, link.fields);
      if (part.code !== was.code)
        replaced.push(say(RECIPES_TEXTS.partPlacementChanged, { placement: placementWords(part.placement) }));
    }
  }
  return {
    snippet: { ...snippet, recipe: { key: to.key, version: to.version, fields: names }, parts },
    fields: fields.map((field) => renewed(field, from.fields, to.fields, names)),
    replaced,
  };
}

function isChanged(a: RecipePart, b: RecipePart): boolean {
  return a.code !== b.code || a.per !== b.per || placementKey(a.placement) !== placementKey(b.placement);
}

/** Three ways: as it is, as the old version made it, as the new one makes it. */
function merged(part: SnapshotPart, was: Part, next: Part, replaced: string[]): Part {
  const place = placementWords(part.placement);
  const isMoved = placementKey(part.placement) !== placementKey(was.placement);
  const isMovedByRecipe = placementKey(next.placement) !== placementKey(was.placement);
  const isEdited = part.code !== was.code;
  const isEditedByRecipe = next.code !== was.code;
  if (isEdited && isEditedByRecipe && part.code !== next.code)
    replaced.push(say(RECIPES_TEXTS.codePlaceWas, { place }));
  if (isMoved && isMovedByRecipe && placementKey(part.placement) !== placementKey(next.placement))
    replaced.push(say(RECIPES_TEXTS.partPlaceWas, { place, placement: placementWords(next.placement) }));
  const { per: _, ...kept } = withoutRank(part);
  // What the recipe says of it anew counts; otherwise what the site has said stays.
  const per = next.per === was.per ? part.per : next.per;
  return {
    ...kept,
    ...(per === 'view' ? { per } : {}),
    placement: isMovedByRecipe ? next.placement : part.placement,
    code: isEditedByRecipe ? next.code : part.code,
    ...(next.statement === was.statement || next.statement === undefined
      ? {}
      : { statement: next.statement }),
  };
}

function withoutRank({ rank: _, ...part }: SnapshotPart): Part {
  return part;
}

/** What a recipe says of a field is taken where nobody has said otherwise at the site. */
function renewed(
  field: Field,
  from: readonly RecipeField[],
  to: readonly RecipeField[],
  names: Readonly<Record<string, string>>,
): Field {
  const isOwn = ({ name }: RecipeField): boolean => names[name] === field.name;
  const was = from.find(isOwn);
  const next = to.find(isOwn);
  if (!was || !next) return field;
  const label = field.label === was.label ? next.label : field.label;
  const example = field.example === was.example ? next.example : field.example;
  const { example: _, ...rest } = field;
  return { ...rest, type: next.type, label, ...(example === undefined ? {} : { example }) };
}
