import { DOCTOR_TEXTS } from '../texts/doctor.js';
import { say } from '../texts/say.js';
import { ofAll, type Examination } from './types.js';

const SLOW_MS = 200;

export const database: Examination = {
  id: 'database',
  examine({ database: { answerMs } }) {
    const ms = Math.ceil(answerMs);
    return answerMs > SLOW_MS
      ? ofAll('warning', say(DOCTOR_TEXTS.databaseSlow, { ms }), DOCTOR_TEXTS.databaseSlowAdvice)
      : ofAll('well', say(DOCTOR_TEXTS.databaseWell, { ms }));
  },
};
