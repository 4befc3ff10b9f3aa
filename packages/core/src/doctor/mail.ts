import { DOCTOR_TEXTS } from '../texts/doctor.js';
import { say } from '../texts/say.js';
import { ofAll, type Examination } from './types.js';

export const mail: Examination = {
  id: 'mail',
  examine({ mail: { isSet, problem, wanted } }) {
    if (!isSet)
      return wanted > 0
        ? ofAll('problem', say(DOCTOR_TEXTS.mailWanted, { count: wanted }), DOCTOR_TEXTS.mailWantedAdvice)
        : ofAll('well', DOCTOR_TEXTS.mailUnset);
    return problem === null
      ? ofAll('well', DOCTOR_TEXTS.mailWell)
      : ofAll('problem', say(DOCTOR_TEXTS.mailBroken, { reason: problem }), DOCTOR_TEXTS.mailBrokenAdvice);
  },
};
