import { DOCTOR_TEXTS } from '../texts/doctor.js';
import { say } from '../texts/say.js';
import { ofAll, type Examination } from './types.js';

const HOUR_MS = 3_600_000;
/** Days after which one that is made every night has been missed more than once. */
const OLD_DAYS = 3;

export const backups: Examination = {
  id: 'backups',
  examine({ now, backups: { isOn, lastAt, failure } }) {
    if (!isOn) return ofAll('warning', DOCTOR_TEXTS.backupsOff, DOCTOR_TEXTS.backupsOffAdvice);
    if (failure !== null)
      return ofAll(
        'problem',
        say(DOCTOR_TEXTS.backupsFailed, { reason: failure }),
        DOCTOR_TEXTS.backupsAdvice,
      );
    if (!lastAt) return ofAll('warning', DOCTOR_TEXTS.backupsNone, DOCTOR_TEXTS.backupsAdvice);
    const hours = Math.max(0, Math.floor((now.getTime() - lastAt.getTime()) / HOUR_MS));
    const days = Math.floor(hours / 24);
    return days >= OLD_DAYS
      ? ofAll('problem', say(DOCTOR_TEXTS.backupsOld, { days }), DOCTOR_TEXTS.backupsAdvice)
      : ofAll('well', say(DOCTOR_TEXTS.backupsWell, { hours }));
  },
};
