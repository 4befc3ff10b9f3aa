import { catalogue } from '@pragmatica/core';

/** What the gateway answers itself, where no page can come: to visitors, and to whoever runs the site. */
export const ANSWERS = catalogue('gateway.answers', {
  failed: {
    title: 'This page could not be delivered',
    text: 'Something in the request or the answer could not be passed on. Try again in a moment.',
  },
  tooLong: {
    title: 'This is too large to send',
    text: 'What was sent is larger than this address accepts.',
  },
  stalled: {
    title: 'This page does not answer at the moment',
    text: 'Many visitors of “{host}” are waiting for this page, and its server does not answer. Other pages are not affected. Try again in a moment.',
  },
  unreachable: {
    title: 'The website does not answer',
    text: 'The server of “{host}” does not answer. Try again in a moment. If this is your site: Pragmatica’s gateway is running, but the server behind it is not.',
  },
  loop: {
    title: 'This site’s origin leads back to itself',
    text: 'The origin of “{host}” in Pragmatica is an address that leads to Pragmatica again. Set it to the address of the server that holds the pages.',
  },
  unknownHost: {
    title: 'This address is not set up',
    text: 'No site is set up for the host “{host}”. If it should be, add the host to its site in Pragmatica.',
  },
  malformed: {
    title: 'This request makes no sense',
    text: '{what} Nothing was passed on.',
  },
  twoHosts: 'It names more than one host.',
  noAddress: 'Its target is not an address.',
});
