import { DOCTOR_TEXTS } from '../texts/doctor.js';
import { say } from '../texts/say.js';
import { ofAll, type Examination } from './types.js';

export const seals: Examination = {
  id: 'seals',
  examine({ unopened }) {
    return unopened.length > 0
      ? ofAll('problem', say(DOCTOR_TEXTS.sealBroken, { names: unopened }), DOCTOR_TEXTS.sealAdvice)
      : ofAll('well', DOCTOR_TEXTS.sealWell);
  },
};
