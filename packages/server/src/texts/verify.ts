import { catalogue } from '@pragmatica/core';

export const VERIFY_TEXTS = catalogue('server.verify', {
  pageRedirects: 'The page redirects to {address}.',
  siteAnsweredStatus: 'The site answered with the status {status}.',
  itAnsweredStatus: 'it answered with the status {status}.',
  unknownType: 'of unknown type',
  notHtmlPage: 'This is not an HTML page but {type}.',
  pageLargerThan: 'The page is larger than 16 MB, and was not looked at.',
  pageCouldNot: 'The page could not be fetched: {cause}',
});
