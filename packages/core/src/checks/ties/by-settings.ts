import { providerWords, settingsWords } from '../../facts/index.js';
import { tieOfParts } from '../tie.js';

/** Settings that they hold, and the providers that may read them. */
export const bySettings = tieOfParts(({ facts: { settings, loads } }) => [
  ...settings.flatMap(({ name }) => settingsWords(name)),
  ...loads.flatMap(({ kind, address }) => (kind === 'script' ? providerWords(address) : [])),
]);
