import { DOCTOR_TEXTS } from '../texts/doctor.js';
import { say } from '../texts/say.js';
import { ofAll, type Examination } from './types.js';

export const gateways: Examination = {
  id: 'gateways',
  examine({ gateways: count, gatewayHosts: hosts }) {
    if (count > 0) return ofAll('well', DOCTOR_TEXTS.gatewaysWell);
    return hosts > 0
      ? ofAll('problem', say(DOCTOR_TEXTS.gatewaysNone, { hosts }), DOCTOR_TEXTS.gatewaysAdvice)
      : ofAll('well', DOCTOR_TEXTS.gatewaysUnused);
  },
};
