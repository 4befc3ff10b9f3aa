import { speakByMoment, type Speech } from '@pragmatica/core';

/** What is said that way, where all of it is said at once. */
export function spoken<T>(speech: Speech, work: () => T): T {
  const putBack = speakByMoment(() => speech);
  try {
    return work();
  } finally {
    putBack();
  }
}
