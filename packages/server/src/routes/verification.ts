import type { HandlersOf } from '../http/context.js';
import { verification } from '../jobs/verification.js';
import type { Sets } from '../site/sets.js';
import type { Visiting } from '../pages/page-skeletons.js';

export function verificationHandlers({ readers, client }: Visiting, sets: Sets): HandlersOf<'verify'> {
  return {
    verify({ params, body }, { store }) {
      return verification({ ...params, ...body }, { store, sets, readers, client });
    },
  };
}
