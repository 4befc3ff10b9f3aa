import type { CorpusSnippet } from './corpus.js';

/** What people paste by mistake. */
export const TROUBLES: readonly CorpusSnippet[] = [
  {
    name: 'script without tags',
    placement: 'head-end',
    code: `window.tallyLayer = window.tallyLayer || [];\ntallyLayer.push({ event: 'start' });`,
  },
  {
    name: 'tags copied as text',
    placement: 'head-end',
    code: `&lt;script src="https://tallymast.example/count.js"&gt;&lt;/script&gt;`,
  },
  {
    name: 'typographic quotes',
    placement: 'head-end',
    code: `<script src=“https://tallymast.example/count.js” data-account=“TM-7731”></script>`,
  },
  {
    name: 'a brace too many',
    placement: 'head-end',
    code: `<script>\nwindow.tally = function () {\n  count();\n}};\n</script>`,
  },
  {
    name: 'the example’s account',
    placement: 'head-end',
    code: `<script async src="https://tallymast.example/count.js?id=YOUR_ACCOUNT_ID"></script>`,
  },
  {
    name: 'crosses for an account',
    placement: 'head-end',
    code: `<script>window.tallyAccount = "TM-XXXX-X";</script>\n<script async src="https://tallymast.example/count.js?id=TM-XXXX-X"></script>`,
  },
  {
    name: 'test mode',
    placement: 'body-end',
    code: `<script>window.nudgelet = { key: 'nl-5512', testMode: true };</script>\n<script async src="https://nudgelet.example/nudge.js"></script>`,
  },
  {
    name: 'a secret',
    placement: 'body-end',
    code: `<script>Slotwell.configure({ calendar: 'SW-2209', client_secret: 'f2c9b1d07a6e4410' });</script>`,
  },
  {
    name: 'broken data',
    placement: 'head-end',
    code: `<script type="application/ld+json">{ "@type": "Organization", }</script>`,
  },
  {
    name: 'code beside an address',
    placement: 'head-end',
    code: `<script src="https://tallymast.example/count.js">tally('start');</script>`,
  },
  {
    name: 'a style sheet without tags',
    placement: 'head-end',
    code: `.notice { position: fixed; bottom: 0; right: 0; }`,
  },
  { name: 'only words', placement: 'head-end', code: `Please paste the code that we sent you last week.` },
  { name: 'nothing', placement: 'head-end', code: `  \n ` },
  {
    name: 'an element that comes later',
    placement: 'head-end',
    code: `<script>document.getElementById('newsletter').className = 'wide';</script>`,
  },
  {
    name: 'its own element, too late',
    placement: 'body-end',
    code: `<script>document.getElementById('quay-map').textContent = 'Map';</script>\n<div id="quay-map"></div>`,
  },
  {
    name: 'http on https',
    placement: 'body-end',
    code: `<script src="http://sharebuoy.example/share.js"></script>`,
  },
  { name: 'an unclosed tag', placement: 'body-end', code: `<div class="notice">Works on the slip` },
  { name: 'an unclosed script', placement: 'body-end', code: `<script>tally('event', 'x');` },
];
