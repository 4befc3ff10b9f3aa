export const VERIFY_TEXTS = {
  codeStandsPage:
    'Its code stands in this page {count} times, so it runs {count} times. It is probably also in the site’s own template: take it out there, or switch the snippet off here.',
  codeNotPage:
    'Its code is not in the page. Visitors do not get it: check that the site’s address leads to Pragmatica and that no older copy of the page is kept somewhere in between.',
  standsPlacement: 'It stands {placement}.',
  wasFoundByte: 'it was found at byte {at} of the page',
  shouldStandPlacement: 'It should stand {placement}, but {found}.',
  reasonAllSame: '{reason} All the same, {found}.',
} as const;
