import type { Placement } from '../insert/index.js';
import type { PlacementOrder } from '../order/index.js';
import type { PageRules } from '../reach/index.js';

/** A change to a set. */
export type SetChange =
  | { readonly kind: 'edit-code'; readonly part: string; readonly code: string }
  | { readonly kind: 'move-part'; readonly part: string; readonly placement: Placement }
  | { readonly kind: 'remove-part'; readonly part: string }
  | { readonly kind: 'switch-off'; readonly snippet: string }
  /** Gives a snippet other pages to run on. */
  | { readonly kind: 'edit-pages'; readonly snippet: string; readonly pages: PageRules }
  /** Gives a snippet one part more, the last of its placement. */
  | {
      readonly kind: 'add-part';
      readonly snippet: string;
      readonly placement: Placement;
      readonly code: string;
    }
  /** Gives placements these orders; a part that is named stands in the list's placement then. */
  | {
      readonly kind: 'arrange';
      readonly lists: readonly PlacementOrder[];
      readonly moved: readonly string[];
    };
