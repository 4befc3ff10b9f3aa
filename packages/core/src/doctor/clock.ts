import { DOCTOR_TEXTS } from '../texts/doctor.js';
import { say } from '../texts/say.js';
import { ofAll, type Examination } from './types.js';

const OFF_MS = 2_000;
/** A code from the phone counts for half a minute (RFC 6238). */
const FAR_OFF_MS = 30_000;

export const clock: Examination = {
  id: 'clock',
  examine({ database: { skewMs } }) {
    const off = Math.abs(skewMs);
    if (off < OFF_MS) return ofAll('well', DOCTOR_TEXTS.clockWell);
    const said = say(DOCTOR_TEXTS.clockOff, { seconds: Math.round(off / 1_000) });
    return ofAll(off < FAR_OFF_MS ? 'warning' : 'problem', said, DOCTOR_TEXTS.clockAdvice);
  },
};
