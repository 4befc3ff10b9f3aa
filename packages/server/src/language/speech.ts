import { AsyncLocalStorage } from 'node:async_hooks';
import { speakByMoment, standingLanguage, type Speech } from '@pragmatica/core';

const speeches = new AsyncLocalStorage<Speech>();

speakByMoment(() => speeches.getStore());

/** Whatever is said meanwhile is said that way: in the language of whoever asks, or kept for readers of any. */
export function speakIn<T>(speech: Speech, work: () => T): T {
  return speeches.run(speech, work);
}

/** Whatever is said meanwhile is kept: it is said to each reader in their language (`sayKept`). */
export function keepWords<T>(work: () => T): T {
  return speeches.run('kept', work);
}

/** Whatever is said meanwhile is said in the language of the installation. */
export function speakAsInstalled<T>(work: () => T): T {
  return speeches.run(standingLanguage(), work);
}
