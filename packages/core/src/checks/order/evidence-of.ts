import type { Definition } from '../../facts/index.js';
import type { Dependency } from '../../order/index.js';
import { fileName } from '../tag-text.js';
import { evidence } from '../evidence.js';
import type { ReadPart } from '../read-part.js';
import type { Spot } from '../finding.js';

/** What the two places are where a name is needed. */
export const NAME_ROLES = {
  uses: 'needs “{name}”',
  defines: 'defines “{name}”',
  called: 'probably defines “{name}”, judging by its name',
} as const;

/** How sure it is that something makes a name, and which file it is where only that tells. */
export function sureness({ confidence, from }: Definition): { sure: string; file: string } {
  return { sure: confidence === 'guess' ? 'guess' : 'sure', file: fileName(from ?? '') };
}

/** The same where an element is. */
export const ELEMENT_ROLES = { seeks: 'looks for #{name}', brings: 'adds #{name}' } as const;

type Role = keyof typeof NAME_ROLES | keyof typeof ELEMENT_ROLES;

/** Both places of a dependency: the one that needs, then the one that it needs. None for what people or
 * recipes state, and for settings, which are told by names alone. */
export function evidenceOf({ first, then, reason }: Dependency<ReadPart>): Spot<Role>[] {
  switch (reason.kind) {
    case 'name':
      return [
        evidence(then, reason.use.range, 'uses', { name: reason.name }),
        evidence(
          first,
          reason.definition.range,
          reason.definition.confidence === 'guess' ? 'called' : 'defines',
          { name: reason.name },
        ),
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
