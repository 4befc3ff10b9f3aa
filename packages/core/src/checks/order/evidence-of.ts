import type { Dependency } from '../../order/index.js';
import { evidence } from '../evidence.js';
import type { ReadPart } from '../read-part.js';
import type { Spot } from '../finding.js';

/** What the two places are where a name is needed. */
export const NAME_ROLES = { uses: 'needs “{name}”', defines: 'makes “{name}”' } as const;

/** The same where an element is. */
export const ELEMENT_ROLES = { seeks: 'looks for #{name}', brings: 'brings #{name}' } as const;

type Role = keyof typeof NAME_ROLES | keyof typeof ELEMENT_ROLES;

/** Both places of a dependency: the one that needs, then the one that it needs. None for what people or
 * recipes state, and for settings, which are told by names alone. */
export function evidenceOf({ first, then, reason }: Dependency<ReadPart>): Spot<Role>[] {
  switch (reason.kind) {
    case 'name':
      return [
        evidence(then, reason.use.range, 'uses', { name: reason.name }),
        evidence(first, reason.definition.range, 'defines', { name: reason.name }),
      ];
    case 'element':
      return [
        evidence(then, reason.need.range, 'seeks', { name: reason.id }),
        evidence(first, reason.made.range, 'brings', { name: reason.id }),
      ];
    case 'settings':
    case 'stated':
    case 'recipe':
      return [];
  }
}
