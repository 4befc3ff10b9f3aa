import type { HandlersOf } from '../http/context.js';
import { verification } from '../jobs/verification.js';
import type { Visiting } from '../pages/page-skeletons.js';

export function verificationHandlers({ readers, client }: Visiting): HandlersOf<'verify'> {
  return {
    verify({ params, body }, { em }) {
      return verification({ ...params, ...body }, { em, readers, client });
    },
  };
}
