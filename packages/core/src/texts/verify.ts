import { catalogue } from './catalogue.js';

export const VERIFY_TEXTS = catalogue('core.verify', {
  codeStandsPage:
    '{count, plural, =2 {Its code is in this page twice, so it runs twice} other {Its code is in this page # times, so it runs # times}}. It is probably in the site’s own template too: remove it there, or switch the snippet off here.',
  codeNotPage:
    'Its code is not in the page, so visitors do not get it. Check that the site’s address leads to Pragmatica and that no cache serves an older copy.',
  standsPlacement: 'It is {placement}.',
  wasFoundByte: 'it was found at byte {at} of the page',
  shouldStandPlacement: 'It should be {placement}, but {found}.',
  reasonAllSame: '{reason} Even so, {found}.',
  lineMissing:
    'The one line is not in this page. Paste it into the box for the head of all pages, save, and publish the site.',
  lineDown: 'The one line is in the page, but cannot be loaded from {src}: {problem}',
  lineBehind:
    'The one line loads a release other than {release}. That is normal for up to two minutes after publishing; after that, check which cache keeps a copy of {src}.',
  linePinned:
    'The page loads a fixed release from {src}, which is not release {release}. Paste the one line again.',
  blockAndPage:
    'It comes in a pasted block, and its code is in the page as well, so it runs twice. Remove it from the site’s own box or template.',
  lineAndPage:
    'The one line loads it, and its code is in the page as well, so it runs twice. Remove it from the site’s own box or template.',
  lineTwice: 'The one line is in this page {count} times. Only the first does anything: remove the others.',
  lineAsync:
    'The one line is pasted in its async form, so this runs later than planned. Paste the in-order form, or choose the async form in the settings.',
  lineInBody:
    'The one line is in the body, so this runs later than planned. Paste it into the box for the head.',
  lineWaits: '{reason} The one line waits for it, in case a script makes it.',
  byLine: 'The one line loads it {placement}.',
  inBlock: 'It is in the block that is pasted into “{name}”.',
  inNoBlock: 'No block has it.',
});
