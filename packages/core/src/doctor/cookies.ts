import { DOCTOR_TEXTS } from '../texts/doctor.js';
import { ofAll, type Examination } from './types.js';

export const cookies: Examination = {
  id: 'cookies',
  examine({ address: { isHttps, hasSecureCookies } }) {
    return isHttps && !hasSecureCookies
      ? ofAll('warning', DOCTOR_TEXTS.cookiesOpen, DOCTOR_TEXTS.cookiesAdvice)
      : ofAll('well', DOCTOR_TEXTS.cookiesWell);
  },
};
