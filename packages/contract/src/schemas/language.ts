import { z } from 'zod';

/** A language that the service speaks. */
export const language = z
  .object({
    tag: z.string().meta({ description: 'BCP 47.', example: 'de' }),
    name: z.string().meta({ description: 'What those who speak it call it.', example: 'Deutsch' }),
    isSpoken: z.boolean().meta({ description: 'This answer, and others to whoever asks, are in it.' }),
  })
  .meta({ id: 'Language' });
export type LanguageResource = z.infer<typeof language>;
