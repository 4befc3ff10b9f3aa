import { catalogue } from '@pragmatica/core';

export const PAGES_TEXTS = catalogue('server.pages', {
  needsScript: 'The console of Pragmatica needs JavaScript. The command line does not: npx pragmatica --help',
  siteHasNo: 'The site has no host yet, so only its front page is assumed.',
  countPagesFrom: '{count} pages from the site’s own list (/sitemap.xml).',
  countPagesSurvey: '{count, plural, one {One page} other {# pages}} from survey {number}.',
  siteSList: 'The site’s list of pages (/sitemap.xml) is empty, so only its front page is assumed.',
  siteSListPages:
    'The site’s list of pages (/sitemap.xml) could not be read: {why}. Only the front page is assumed.',
  siteAnsweredStatus: 'the site answered {status}',
  tooLong: 'it is longer than {megabytes} MB',
  noXml: 'it is no XML',
  noSitemap: 'it is no sitemap',
});
