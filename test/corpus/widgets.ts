import type { CorpusSnippet } from './corpus.js';

/** Things that visitors see, things that only machines read, and things that people write themselves. */
export const WIDGETS: readonly CorpusSnippet[] = [
  {
    name: 'form with its place before it',
    placement: { anchor: 'newsletter', side: 'inside' },
    code: `<div id="formhatch-quay"></div>
<script src="https://formhatch.example/form.js" data-form="quay"></script>`,
  },
  {
    name: 'booking button from a call',
    placement: 'body-end',
    code: `<div id="slotwell-box"></div>
<script src="https://slotwell.example/button.js"></script>
<script>Slotwell.mount('#slotwell-box', { calendar: 'SW-2209', label: 'See free places' });</script>`,
  },
  {
    name: 'booking frame',
    placement: { anchor: 'booking-widget', side: 'inside' },
    code: `<iframe src="https://book.slotwell.example/embed?calendar=SW-2209" width="100%" height="600" title="Free places" loading="lazy"></iframe>`,
  },
  {
    name: 'share buttons',
    placement: 'body-end',
    code: `<div class="sharebuoy-buttons" data-url="/fares"></div>
<script async src="https://sharebuoy.example/share.js"></script>`,
  },
  {
    name: 'pop-up with a box of its own',
    placement: 'body-end',
    code: `<style>#nudge{position:fixed;left:20px;bottom:20px;z-index:60}</style>
<div id="nudge" hidden>Ten crossings, eight paid. <button onclick="this.parentNode.remove()">No thanks</button></div>
<script>
if (!sessionStorage.getItem('nudge-seen')) {
  setTimeout(function () { document.getElementById('nudge').hidden = false; sessionStorage.setItem('nudge-seen', '1'); }, 3000);
}
</script>`,
  },
  {
    name: 'a box made by a script',
    placement: 'body-end',
    code: `<script>
(function () {
  var bubble = document.createElement('button');
  bubble.id = 'parlanook-bubble';
  bubble.style.cssText = 'position:fixed;right:20px;bottom:20px;z-index:50';
  bubble.textContent = 'Chat';
  document.body.appendChild(bubble);
})();
</script>`,
  },
  {
    name: 'accessibility menu',
    placement: 'body-end',
    code: `<script>window.easewheelSettings = { corner: 'bottom-left', language: 'en' };</script>
<script defer src="https://easewheel.example/accessibility.js"></script>`,
  },
  {
    name: 'data for machines',
    placement: 'head-end',
    code: `<script type="application/ld+json">
{ "@context": "https://schema.org", "@type": "Organization", "name": "Skerrywick Ferries", "url": "https://skerrywick.example" }
</script>`,
  },
  {
    name: 'proof of ownership',
    placement: 'head-end',
    code: `<meta name="pierlist-verification" content="b7e1c04f55">`,
  },
  {
    name: 'fonts',
    placement: 'head-end',
    code: `<link rel="preconnect" href="https://letters.example" crossorigin>
<link rel="stylesheet" href="https://letters.example/css?family=Sea+Sans:wght@400;700&display=swap">`,
  },
  {
    name: 'styles of one’s own',
    placement: 'head-end',
    code: `<style>
/* The notice at the top of the page */
.notice { position: sticky; top: 0; left: 0; right: 0; background: #f6efe2 url(/assets/wave.svg); }
</style>`,
  },
  {
    name: 'a notice',
    placement: 'body-start',
    code: `<div role="status" style="background:#f6efe2;padding:.6rem 1rem">Works on the slip: foot passengers board at the fish quay.</div>`,
  },
  {
    name: 'an event on a click',
    placement: 'body-end',
    code: `<script>
document.querySelectorAll('a.call').forEach(function (link) {
  link.addEventListener('click', function () { tally('event', 'call', { from: location.pathname }); });
});
</script>`,
  },
  {
    name: 'an event that looks first',
    placement: 'body-end',
    code: `<script>if (typeof glint === 'function') { glint('event', 'booking-seen'); }</script>`,
  },
  {
    name: 'an event with optional chaining',
    placement: 'body-end',
    code: `<script>window.crateLayer?.push({ event: 'timetable-seen', island: 'Hallow' });</script>`,
  },
  {
    name: 'an event in a try',
    placement: 'body-end',
    code: `<script>try { tally('event', 'fares'); } catch (problem) { console.warn(problem); }</script>`,
  },
  {
    name: 'a return when something is missing',
    placement: 'body-end',
    code: `<script>(function () { if (!window.jib) return; jib('.timetable').sortable(); })();</script>`,
  },
  {
    name: 'an element that may be missing',
    placement: 'body-end',
    code: `<script>
const table = document.querySelector('#timetable');
if (table) table.classList.add('wide');
</script>`,
  },
  {
    name: 'a button with a handler of others',
    placement: 'body-end',
    code: `<button type="button" onclick="Parlanook.open()">Ask us</button>`,
  },
  {
    name: 'a library and what is done with it',
    placement: 'body-end',
    code: `<script src="https://files.example/jib-3.2.1.min.js"></script>
<script>jib(function ($) { $('#menu').on('click', function () { $(this).toggleClass('open'); }); });</script>`,
  },
  {
    name: 'a cookie and a setting',
    placement: 'head-end',
    code: `<script>
document.cookie = 'island=' + encodeURIComponent(localStorage.getItem('island') || 'Hallow') + '; path=/';
</script>`,
  },
  {
    name: 'image of one dot',
    placement: 'body-end',
    code: `<img src="https://glintpixel.example/dot.gif?account=GP-4417" width="1" height="1" alt="" style="display:none">`,
  },
  {
    name: 'a beacon when leaving',
    placement: 'body-end',
    code: `<script>addEventListener('pagehide', () => navigator.sendBeacon('https://tallymast.example/leave', '1'));</script>`,
  },
  {
    name: 'data fetched and shown',
    placement: { anchor: 'sailings', side: 'inside' },
    code: `<ul id="next-sailings"></ul>
<script>
fetch('https://pierlist.example/api/next?stop=HAL')
  .then((answer) => answer.json())
  .then((list) => {
    document.getElementById('next-sailings').innerHTML = list.map((one) => '<li>' + one.time + '</li>').join('');
  });
</script>`,
  },
];
