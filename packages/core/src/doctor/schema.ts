import { DOCTOR_TEXTS } from '../texts/doctor.js';
import { say } from '../texts/say.js';
import { ofAll, type Examination } from './types.js';

export const schema: Examination = {
  id: 'schema',
  examine({ database: { missing, unknown } }) {
    if (missing > 0)
      return ofAll(
        'problem',
        say(DOCTOR_TEXTS.schemaMissing, { count: missing }),
        DOCTOR_TEXTS.schemaMissingAdvice,
      );
    if (unknown > 0) return ofAll('warning', DOCTOR_TEXTS.schemaUnknown, DOCTOR_TEXTS.schemaUnknownAdvice);
    return ofAll('well', DOCTOR_TEXTS.schemaWell);
  },
};
