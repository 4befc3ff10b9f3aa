import { DOCTOR_TEXTS } from '../texts/doctor.js';
import { say } from '../texts/say.js';
import { ofAll, type Examination } from './types.js';

export const workers: Examination = {
  id: 'workers',
  examine({ workers: count, stuck }) {
    if (count === 0) return ofAll('problem', DOCTOR_TEXTS.workersNone, DOCTOR_TEXTS.workersAdvice);
    if (stuck > 0)
      return ofAll('warning', say(DOCTOR_TEXTS.stuck, { count: stuck }), DOCTOR_TEXTS.stuckAdvice);
    return ofAll('well', say(DOCTOR_TEXTS.workersWell, { count }));
  },
};
