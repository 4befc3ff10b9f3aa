import type { Tie } from '../tie.js';
import { byId } from './by-id.js';
import { byName } from './by-name.js';
import { byRecipe } from './by-recipe.js';
import { bySettings } from './by-settings.js';
import { byStatement } from './by-statement.js';

/** All that makes one part need another: what the order is worked out from. */
export const BY_NEED: readonly Tie[] = [byName, byId, bySettings, byStatement, byRecipe];
