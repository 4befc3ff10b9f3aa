import { domainOf, domainOfHost } from './addresses.js';
import type { Facts } from './types.js';
import { KIND_TEXTS } from '../texts/kinds.js';
import { say } from '../texts/say.js';

export interface SuggestedNames {
  readonly name: string;
  /** Empty where the code talks to nobody. */
  readonly provider: string;
  readonly purpose: string;
}

/** What a snippet could be called, who it is from, and what it is for. */
export function suggestNames({ shape, loads, hosts }: Facts): SuggestedNames {
  const script = loads.find(({ kind, noScript }) => kind === 'script' && !noScript) ?? loads[0];
  const domain = (script && domainOf(script.address)) ?? (hosts[0] && domainOfHost(hosts[0]));
  const provider = domain ? capital(domain.split('.')[0]!) : '';
  // A name is believed more than it is read, so a mere guess gives none.
  const { ofProvider, alone, purpose } = KIND_TEXTS[shape.confidence === 'guess' ? 'other' : shape.kind];
  return { name: provider === '' ? alone : say(ofProvider, { provider }), provider, purpose };
}

function capital(word: string): string {
  return word.slice(0, 1).toUpperCase() + word.slice(1);
}
