import { z } from 'zod';
import { timestamp } from './common.js';

export const diagnosis = z.object({
  id: z.string().meta({ description: 'Of what was examined: `schema`, `disk`, `hosts` …' }),
  title: z.string().meta({ description: 'The same in words.' }),
  about: z.string().nullable().meta({ description: 'The host or folder that it is about.' }),
  health: z.enum(['well', 'warning', 'problem']),
  said: z.string(),
  advice: z.string().meta({ description: 'What to do; empty where nothing is to be done.' }),
});
export type DiagnosisResource = z.infer<typeof diagnosis>;

export const doctorEvent = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('progress'),
    done: z.int().meta({ description: 'Hosts that have been asked.' }),
    of: z.int(),
  }),
  z.object({ type: z.literal('done'), at: timestamp, diagnoses: z.array(diagnosis) }),
]);
export type DoctorEvent = z.infer<typeof doctorEvent>;
