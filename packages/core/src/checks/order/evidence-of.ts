import type { Dependency } from '../../order/index.js';
import { evidence } from '../evidence.js';
import type { ReadPart } from '../read-part.js';
import type { Evidence } from '../finding.js';

/** Both places of a dependency: the one that needs, then the one that it needs. None for what people or recipes state. */
export function evidenceOf({ first, then, reason }: Dependency<ReadPart>): Evidence[] {
  switch (reason.kind) {
    case 'name':
      return [
        evidence(then, reason.use.range, `needs “${reason.name}”`),
        evidence(first, reason.definition.range, `makes “${reason.name}”`),
      ];
    case 'element':
      return [
        evidence(then, reason.need.range, `looks for #${reason.id}`),
        evidence(first, reason.made.range, `brings #${reason.id}`),
      ];
    case 'settings':
      return [
        evidence(then, reason.load.range, `reads “${reason.name}”`),
        evidence(first, reason.settings.range, `sets “${reason.name}”`),
      ];
    case 'stated':
    case 'recipe':
      return [];
  }
}
