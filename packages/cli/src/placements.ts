import { nearest } from '@pragmatica/contract';
import { NAMED_PLACEMENTS, placementKey, type Placement } from '@pragmatica/core';

export { NAMED_PLACEMENTS, placementKey, type Placement };

/** The named placement that was probably meant. */
export function nearestPlacement(typed: string): string | undefined {
  return nearest(typed, NAMED_PLACEMENTS);
}
