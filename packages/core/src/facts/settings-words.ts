import { domainOf } from './addresses.js';

/** Words that any settings object may be called, whoever reads it. */
const GENERAL = /^(settings|config|configuration|options|params|data|layer|window|init|props)$/;
const MIN_LENGTH = 4;

/** The words of a settings object's name that tell whose it is: `parlanookSettings` gives `parlanook`. */
export function settingsWords(name: string): string[] {
  return wordsOf(name).filter((word) => word.length >= MIN_LENGTH && !GENERAL.test(word));
}

/** The words of an address's registrable domain: those that a provider calls itself by. */
export function providerWords(address: string): string[] {
  return wordsOf(domainOf(address)?.split('.')[0] ?? '');
}

/** Settings and script that share a word belong together: `parlanookSettings` and `cdn.parlanook.example`. */
export function isAboutSettings(name: string, address: string): boolean {
  const lower = address.toLowerCase();
  return settingsWords(name).some((word) => lower.includes(word));
}

function wordsOf(name: string): string[] {
  return name
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter(Boolean);
}
