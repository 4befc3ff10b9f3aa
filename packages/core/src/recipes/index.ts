export {
  applyRecipe,
  givenValueProblems,
  toPart,
  type Applied,
  type GivenValue,
  type ValueProblem,
} from './apply.js';
export { RecipeBook } from './book.js';
export { bringUp, type BroughtUp } from './bring-up.js';
export { checklist, type ChecklistItem, type RecipeUse, type SiteHost } from './checklist.js';
export { recipeDifference } from './difference.js';
export { followRecipe, type Followed, type NotFollowed } from './follow.js';
export { recipeFromSnippet, type MadeRecipe } from './make.js';
export { isPiece, matchPieces } from './pieces.js';
export { recipeProblems, type RecipeProblem } from './problems.js';
export { recogniseRecipe } from './recognise.js';
export {
  FLOATING_CORNERS,
  RECIPE_FORMAT,
  type FloatingCorner,
  type Recipe,
  type RecipeField,
  type RecipePart,
  type RecipeStep,
  type Recognition,
  type StepTick,
} from './types.js';
export { recipeOf, recipeUses } from './uses.js';
