import { DELIVER_TEXTS } from '../texts/deliver.js';
import { ASPECTS, type Ability, type Aspect, type Delivery } from './delivery.js';
import { DELIVERIES } from './registry.js';

export interface TableRow {
  readonly aspect: Aspect;
  readonly label: string;
  /** In the order of the ways. */
  readonly cells: readonly Ability[];
}

/** What each way can and cannot do, aspect by aspect. */
export function deliveryTable(ways: readonly Delivery[] = DELIVERIES): TableRow[] {
  return ASPECTS.map((aspect) => ({
    aspect,
    label: DELIVER_TEXTS.aspects[aspect],
    cells: ways.map(({ abilities }) => abilities[aspect]),
  }));
}
