import { placementWords } from '../../insert/index.js';
import { isPiece, toPart, type Recipe, type RecipePart } from '../../recipes/index.js';
import type { SnapshotSnippet } from '../../snapshot/index.js';
import { type CheckedSet } from '../checked-set.js';
import { exampleRecipe } from '../examples.js';
import { partsBySnippet } from '../parts-by-snippet.js';
import type { ReadPart } from '../read-part.js';
import { WITH_ALL } from '../tie.js';
import { defineCheck } from '../check.js';

const LOADER = '<script async src="https://crateline.example/crate.js?id=CR-20-3"></script>';
const WITHOUT_SCRIPTS =
  '<noscript><iframe src="https://crateline.example/no-script.html?id=CR-20-3"></iframe></noscript>';

export const missingPiece = defineCheck({
  id: 'missing-piece',
  area: 'placement',
  severity: 'error',
  title: 'A piece of the install is missing',
  why: 'The install comes in several pieces, and a required one is missing. Half an install looks complete and does not work.',
  given: 'The recipe that both follow has two pieces, and needs both.',
  recipes: [
    exampleRecipe('crateline-container', 'Crateline container', {
      parts: [
        { key: 'loader', placement: 'head-start', required: true, code: LOADER },
        { key: 'without-scripts', placement: 'body-start', required: true, code: WITHOUT_SCRIPTS },
      ],
    }),
  ],
  asks: ['recipes'],
  messages: {
    missing: {
      title: '“{snippet}” is missing its piece {place}',
      advice: '“{recipe}” needs the piece “{piece}” {place}. Add it.',
      fix: 'Add the piece {place}.',
    },
    'missing-by-hand': {
      title: '“{snippet}” is missing its piece {place}',
      advice: '“{recipe}” needs the piece “{piece}” {place}. Copy it from the provider’s page.',
      fix: 'Add the piece {place}.',
    },
  },
  isFixable: true,
  wrong: [
    {
      name: 'Container',
      recipe: 'crateline-container',
      parts: [{ placement: 'head-start', code: LOADER }],
    },
  ],
  right: [
    {
      name: 'Container',
      recipe: 'crateline-container',
      parts: [
        { placement: 'head-start', code: LOADER },
        { placement: 'body-start', code: WITHOUT_SCRIPTS },
      ],
    },
  ],
  ties: [({ snippet, parts }, set) => (snippet.recipe || !lacking(set, snippet, parts) ? [] : WITH_ALL)],
  *run(set) {
    if (set.book.newest.length === 0) return;
    for (const [snippet, own] of partsBySnippet(set)) {
      const { recipe, pieces } = lacking(set, snippet, own) ?? {};
      for (const piece of pieces ?? [])
        if (!isElsewhere(set, piece, own, snippet)) yield found(snippet, recipe!, piece);
    }
  },
});

/** The pieces that an install cannot do without and that are not in it; undefined where it lacks none. */
function lacking(set: CheckedSet, snippet: SnapshotSnippet, own: readonly ReadPart[]) {
  const recipe = set.book.followed(snippet.recipe) ?? set.recipeOf(snippet);
  if (!recipe) return undefined;
  const there = recipe.parts.filter((piece) => own.some(({ facts }) => isPiece(piece, facts)));
  // Code that is none of the pieces says nothing of the others.
  if (there.length === 0 && !snippet.recipe) return undefined;
  const pieces = recipe.parts.filter((piece) => piece.required && !there.includes(piece));
  return pieces.length === 0 ? undefined : { recipe, pieces };
}

/** Whether the piece was pasted as another snippet, as happens by hand. */
function isElsewhere(
  set: CheckedSet,
  piece: RecipePart,
  [first]: readonly ReadPart[],
  snippet: SnapshotSnippet,
): boolean {
  return (
    snippet.recipe === undefined &&
    set.near.running.some((part) => isPiece(piece, part.facts) && set.meeting(first!, part) !== undefined)
  );
}

function found({ key, name, recipe: link }: SnapshotSnippet, recipe: Recipe, piece: RecipePart) {
  const place = placementWords(piece.placement);
  // By hand the fields' values are not known.
  const code = link ? toPart(piece, link.fields).code : piece.code.includes('@{') ? undefined : piece.code;
  return {
    about: piece.key,
    message: link ? 'missing' : 'missing-by-hand',
    params: { snippet: name, recipe: recipe.name, piece: piece.key, place },
    subjects: [{ snippet: key, name }],
    evidence: [],
    ...(code === undefined
      ? {}
      : { fix: [{ kind: 'add-part', snippet: key, placement: piece.placement, code } as const] }),
  } as const;
}
