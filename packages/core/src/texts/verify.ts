export const VERIFY_TEXTS = {
  codeStandsPage:
    'Its code stands in this page {count} times, so it runs {count} times. It is probably also in the site’s own template: take it out there, or switch the snippet off here.',
  codeNotPage:
    'Its code is not in the page. Visitors do not get it: check that the site’s address leads to Pragmatica and that no older copy of the page is kept somewhere in between.',
  standsPlacement: 'It stands {placement}.',
  wasFoundByte: 'it was found at byte {at} of the page',
  shouldStandPlacement: 'It should stand {placement}, but {found}.',
  reasonAllSame: '{reason} All the same, {found}.',
  lineMissing:
    'The one line is not in this page. Paste it into the box for the head of all pages, save, and publish the site.',
  lineDown: 'The one line is in the page, but cannot be loaded from {src}: {problem}',
  lineBehind:
    'The one line brings another release than {release}. Up to two minutes after publishing that is normal; after that, look at what keeps a copy of {src}.',
  linePinned:
    'The page loads one certain release from {src}, which is not release {release}. Paste the one line again.',
  blockAndPage:
    'A pasted block brings it, and its code stands in the page as well: it runs twice. Remove it from the site’s own box or template.',
  lineAndPage:
    'The one line brings it, and its code stands in the page as well: it runs twice. Remove it from the site’s own box or template.',
  lineTwice:
    'The one line stands in this page {count} times. Only the first one does anything: remove the others.',
  lineAsync:
    'The one line is pasted in its async form, so this runs later than planned. Paste the in-order form, or choose the async form in the settings.',
  lineInBody:
    'The one line stands in the body, so this runs later than planned. Paste it into the box for the head.',
  lineWaits: '{reason} The one line waits for it, in case a script makes it.',
  byLine: 'The one line brings it {placement}.',
  inBlock: 'It is in the block that is pasted into “{name}”.',
  inNoBlock: 'No block holds it.',
} as const;
