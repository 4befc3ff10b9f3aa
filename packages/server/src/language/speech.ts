import { AsyncLocalStorage } from 'node:async_hooks';
import { speakByMoment, standingLanguage, type Speech } from '@pragmatica/core';

const speeches = new AsyncLocalStorage<Speech>();

speakByMoment(() => speeches.getStore());

/** Whatever is said meanwhile is said that way: in the language of whoever asks, or deferred for readers of any. */
export function speakIn<T>(speech: Speech, work: () => T): T {
  return speeches.run(speech, work);
}

/** Whatever is said meanwhile is deferred: each reader hears it in their language (`sayDeferred`). */
export function deferMessages<T>(work: () => T): T {
  return speeches.run('deferred', work);
}

/** Whatever is said meanwhile is said in the language of the installation. */
export function speakAsInstalled<T>(work: () => T): T {
  return speeches.run(standingLanguage(), work);
}
