import { catalogue } from './catalogue.js';

/** What things of a kind are called behind their provider's name, by themselves, and what they are for. */
export const KIND_TEXTS = catalogue('core.kinds', {
  analytics: {
    ofProvider: '{provider} visit counter',
    alone: 'Visit counter',
    purpose: 'Counts visits, so that we know which pages are used.',
  },
  container: {
    ofProvider: '{provider} tag container',
    alone: 'Tag container',
    purpose: 'Holds other tags, which are managed in an account with the provider.',
  },
  pixel: {
    ofProvider: '{provider} advert pixel',
    alone: 'Advert pixel',
    purpose: 'Reports to an advertiser who came from an advert.',
  },
  chat: {
    ofProvider: '{provider} chat',
    alone: 'Chat window',
    purpose: 'Lets visitors ask us something while they look.',
  },
  ads: {
    ofProvider: '{provider} adverts',
    alone: 'Adverts',
    purpose: 'Shows adverts on our pages.',
  },
  'pop-up': {
    ofProvider: '{provider} pop-up',
    alone: 'Pop-up',
    purpose: 'Shows visitors an offer or a notice over the page.',
  },
  booking: {
    ofProvider: '{provider} booking button',
    alone: 'Booking button',
    purpose: 'Lets visitors book without leaving the page.',
  },
  form: {
    ofProvider: '{provider} form',
    alone: 'Form',
    purpose: 'Lets visitors send us something.',
  },
  consent: {
    ofProvider: '{provider} cookie question',
    alone: 'Cookie question',
    purpose: 'Asks visitors what they agree to.',
  },
  accessibility: {
    ofProvider: '{provider} accessibility menu',
    alone: 'Accessibility menu',
    purpose: 'Lets visitors change size and colours.',
  },
  share: {
    ofProvider: '{provider} share buttons',
    alone: 'Share buttons',
    purpose: 'Lets visitors pass a page on.',
  },
  style: {
    ofProvider: '{provider} styles',
    alone: 'Style rules',
    purpose: 'Changes how our pages look.',
  },
  metadata: {
    ofProvider: '{provider} metadata',
    alone: 'Metadata',
    purpose: 'Tells search engines what a page is about.',
  },
  other: {
    ofProvider: '{provider} script',
    alone: 'Script',
    purpose: '',
  },
});
