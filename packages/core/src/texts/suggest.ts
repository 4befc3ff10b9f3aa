import { catalogue } from './catalogue.js';

export const SUGGEST_TEXTS = catalogue('core.suggest', {
  whatAsksConsent: 'The consent banner has to run before everything that needs consent.',
  containerShouldThere: 'A container has to be there before anything that uses it.',
  headAlsoCounts: 'In the head it also counts visitors who leave early.',
  headAlsoReports: 'In the head it also reports visitors who leave early.',
  searchEnginesLook: 'Search engines look for it in the head.',
  stylesHeadThere: 'Styles in the head are there before anything is drawn.',
  pieceBrowsersWithout:
    'This piece is for browsers without scripts. It has a frame in it, which is not possible in the head.',
  providerSaysSo: 'The provider says so.',
  browsersWithoutScripts: 'It is for browsers without scripts, and belongs at the top of the body.',
  showsSomethingSo:
    'It shows something, so it belongs in the body. To show it at a certain place, choose an element there.',
  looksElementPage: 'It looks for an element of the page, which has to be there first.',
  nothingHasCome: 'Nothing in it needs to run early, so the page comes first.',
});
