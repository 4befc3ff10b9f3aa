import { DOCTOR_TEXTS } from '../texts/doctor.js';
import { say } from '../texts/say.js';
import { ofAll, type Examination } from './types.js';

export const identity: Examination = {
  id: 'identity',
  examine({ identityProvider }) {
    if (identityProvider === null) return [];
    const { name, problem } = identityProvider;
    return problem === null
      ? ofAll('well', say(DOCTOR_TEXTS.identityWell, { name }))
      : ofAll(
          'problem',
          say(DOCTOR_TEXTS.identityAway, { name, reason: problem }),
          DOCTOR_TEXTS.identityAdvice,
        );
  },
};
