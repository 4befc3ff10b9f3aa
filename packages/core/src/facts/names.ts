import { domainOf, domainOfHost } from './addresses.js';
import type { Facts, ShapeKind } from './types.js';

export interface SuggestedNames {
  readonly name: string;
  /** Empty where the code talks to nobody. */
  readonly provider: string;
  readonly purpose: string;
}

/** What things of a kind are called behind their provider's name, by themselves, and what they are for. */
const BY_SHAPE: Readonly<Record<ShapeKind, readonly [after: string, alone: string, purpose: string]>> = {
  analytics: ['visit counter', 'Visit counter', 'Counts visits, so that we know which pages are used.'],
  container: ['tag container', 'Tag container', 'Holds other tags, which are looked after at the provider.'],
  pixel: ['advert pixel', 'Advert pixel', 'Tells an advertiser who came from an advert.'],
  chat: ['chat', 'Chat window', 'Lets visitors ask us something while they look.'],
  ads: ['adverts', 'Adverts', 'Shows adverts on our pages.'],
  'pop-up': ['pop-up', 'Pop-up', 'Shows visitors an offer or a notice over the page.'],
  booking: ['booking button', 'Booking button', 'Lets visitors book without leaving the page.'],
  form: ['form', 'Form', 'Lets visitors send us something.'],
  consent: ['cookie question', 'Cookie question', 'Asks visitors what they agree to.'],
  accessibility: ['accessibility menu', 'Accessibility menu', 'Lets visitors change size and colours.'],
  share: ['share buttons', 'Share buttons', 'Lets visitors pass a page on.'],
  style: ['styles', 'Style rules', 'Changes how our pages look.'],
  metadata: ['notes for machines', 'Notes for search engines', 'Tells search engines what a page is about.'],
  other: ['script', 'Script', ''],
};

/** What a snippet could be called, who it is from, and what it is for. */
export function suggestNames({ shape, loads, hosts }: Facts): SuggestedNames {
  const script = loads.find(({ kind, noScript }) => kind === 'script' && !noScript) ?? loads[0];
  const domain = (script && domainOf(script.address)) ?? (hosts[0] && domainOfHost(hosts[0]));
  const provider = domain ? capital(domain.split('.')[0]!) : '';
  // A name is believed more than it is read, so a mere guess gives none.
  const [after, alone, purpose] = BY_SHAPE[shape.confidence === 'guess' ? 'other' : shape.kind];
  return { name: provider === '' ? alone : `${provider} ${after}`, provider, purpose };
}

function capital(word: string): string {
  return word.slice(0, 1).toUpperCase() + word.slice(1);
}
