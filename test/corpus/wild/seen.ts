import type { CorpusSnippet } from '../corpus.js';

const atFoot = (name: string, code: string): CorpusSnippet => ({ name, placement: 'body-end', code });

/** What visitors see: boxes, buttons, frames, players, maps, lists. */
export const SEEN: readonly CorpusSnippet[] = [
  atFoot(
    'a frame that plays a film',
    `<iframe width="560" height="315" src="https://films.example/embed/h4ll0w?rel=0" title="The Otter in winter" frameborder="0" allow="accelerometer; autoplay; encrypted-media; picture-in-picture" allowfullscreen loading="lazy"></iframe>`,
  ),
  atFoot(
    'a film in a box that keeps its shape',
    `<div style="position:relative;padding-bottom:56.25%;height:0;overflow:hidden"><iframe style="position:absolute;inset:0;width:100%;height:100%" src="https://films.example/embed/h4ll0w" title="The Otter"></iframe></div>`,
  ),
  atFoot(
    'a map in a frame',
    `<iframe src="https://charts.example/embed?at=58.77,-3.02&zoom=11" style="border:0" width="600" height="450" allowfullscreen referrerpolicy="no-referrer-when-downgrade" title="Where we sail"></iframe>`,
  ),
  atFoot(
    'a map by a library',
    `<link rel="stylesheet" href="https://files.example/deckmap-1.9.4.css">
<div id="sea-map" style="height: 320px"></div>
<script src="https://files.example/deckmap-1.9.4.js"></script>
<script>
  var map = deckmap('sea-map').setView([58.77, -3.02], 11);
  deckmap.tiles('https://tiles.charts.example/{z}/{x}/{y}.png', { maxZoom: 18 }).addTo(map);
  deckmap.marker([58.77, -3.02]).addTo(map).bindPopup('Skerrywick pier');
</script>`,
  ),
  atFoot(
    'a player for sound',
    `<audio controls preload="none" src="https://sound.example/episodes/17.mp3">Your browser plays no sound. <a href="https://sound.example/episodes/17.mp3">Download it</a>.</audio>`,
  ),
  atFoot(
    'a post of a network',
    `<blockquote class="gullpost" data-lang="en"><p>First crossing of the year!</p>&mdash; Skerrywick Ferries <a href="https://gullpost.example/skerrywick/123">2 January</a></blockquote>
<script async src="https://embed.gullpost.example/post.js" charset="utf-8"></script>`,
  ),
  atFoot(
    'reviews of a provider',
    `<div class="starboard-widget" data-locale="en-GB" data-template="5419b6a8" data-business="46e1a2" data-style-height="140px" data-theme="light">
  <a href="https://starboard.example/review/skerrywick" target="_blank" rel="noopener">Starboard</a>
</div>
<script type="text/javascript" src="//widget.starboard.example/bootstrap.js" async></script>`,
  ),
  atFoot(
    'a calendar that fills a place',
    `<div class="slotwell-inline" data-url="https://book.slotwell.example/skerrywick/charter" style="min-width:320px;height:700px;"></div>
<script type="text/javascript" src="https://assets.slotwell.example/embed.js" async></script>`,
  ),
  atFoot(
    'a booking button with a badge',
    `<link href="https://assets.slotwell.example/widget.css" rel="stylesheet">
<script src="https://assets.slotwell.example/widget.js" type="text/javascript"></script>
<script type="text/javascript">window.addEventListener('load', function() { Slotwell.initBadge({ url: 'https://book.slotwell.example/skerrywick', text: 'Book a crossing', color: '#0b4a6f' }); });</script>`,
  ),
  atFoot(
    'a letter form that is all markup',
    `<form action="https://letters.formhatch.example/subscribe?list=FH-3108" method="post" target="_blank">
  <label for="letter-mail">Your e-mail</label>
  <input id="letter-mail" type="email" name="email" required autocomplete="email">
  <div style="position:absolute;left:-5000px" aria-hidden="true"><input type="text" name="b_FH3108" tabindex="-1" value=""></div>
  <button>Send me the sailings</button>
</form>`,
  ),
  atFoot(
    'a form that a script draws',
    `<script charset="utf-8" type="text/javascript" src="//js.formhatch.example/forms/v2.js"></script>
<script>
  formhatch.forms.create({ region: "eu1", portal: "310822", form: "6e0f-41c2" });
</script>`,
  ),
  atFoot(
    'a form in a frame that grows',
    `<iframe id="ask-us" src="https://ask.formhatch.example/f/3108" style="width:1px;min-width:100%;border:0" title="Ask us"></iframe>
<script>
addEventListener('message', function (event) {
  if (event.origin !== 'https://ask.formhatch.example') return;
  document.getElementById('ask-us').style.height = Number(event.data.height) + 'px';
});
</script>`,
  ),
  atFoot(
    'a button at the edge',
    `<a href="/book" class="book-now" style="position:fixed;right:0;top:40%;padding:.6rem 1rem;background:#0b4a6f;color:#fff">Book</a>`,
  ),
  atFoot(
    'a way back to the top',
    `<button id="to-top" style="position:fixed;bottom:16px;right:16px" hidden aria-label="Back to the top">↑</button>
<script>
(function () {
  var button = document.getElementById('to-top');
  addEventListener('scroll', function () { button.hidden = scrollY < 600; }, { passive: true });
  button.onclick = function () { scrollTo({ top: 0, behavior: 'smooth' }); };
})();
</script>`,
  ),
  atFoot(
    'a countdown',
    `<p>Summer timetable in <span id="days-left">…</span> days</p>
<script>document.getElementById('days-left').textContent = Math.max(0, Math.ceil((Date.UTC(2027, 3, 1) - Date.now()) / 864e5));</script>`,
  ),
  atFoot(
    'a year that is always right',
    `<script>for (const place of document.querySelectorAll('.this-year')) place.textContent = new Date().getFullYear();</script>`,
  ),
  atFoot(
    'a list that opens and closes',
    `<details><summary>What about dogs?</summary><p>On deck, on a lead, for free.</p></details>`,
  ),
  atFoot(
    'an accordion by hand',
    `<script>
var headings = document.querySelectorAll('.faq h3');
for (var i = 0; i < headings.length; i++) {
  headings[i].setAttribute('role', 'button');
  headings[i].addEventListener('click', function () { this.parentNode.classList.toggle('open'); });
}
</script>`,
  ),
  atFoot(
    'a slide show by a library',
    `<div class="slides" id="boats"><div class="slide">Otter</div><div class="slide">Tern</div></div>
<script src="https://files.example/slidewell-2.4.1.min.js"></script>
<script>new Slidewell('#boats', { loop: true, autoplay: { delay: 4000 } });</script>`,
  ),
  atFoot(
    'a template that a script copies',
    `<template id="notice-template"><div class="notice"><slot></slot></div></template>
<script>
customElements.define('sea-notice', class extends HTMLElement {
  connectedCallback() {
    this.attachShadow({ mode: 'open' }).append(document.getElementById('notice-template').content.cloneNode(true));
  }
});
</script>
<sea-notice>Calm seas today.</sea-notice>`,
  ),
  atFoot(
    'an element of a provider',
    `<nook-chat room="harbour-office" position="bottom-right"></nook-chat>
<script type="module" src="https://cdn.parlanook.example/nook-chat.mjs"></script>`,
  ),
  atFoot(
    'a drawing',
    `<svg role="img" aria-label="Wave" viewBox="0 0 120 20" width="120"><style>.w{fill:none;stroke:#0b4a6f}</style><path class="w" d="M0 10 Q15 0 30 10 T60 10 T90 10 T120 10"/></svg>`,
  ),
  atFoot('a formula', `<math display="block"><mi>v</mi><mo>=</mo><mfrac><mi>s</mi><mi>t</mi></mfrac></math>`),
  atFoot(
    'a table of prices',
    `<table class="fares"><caption>Fares</caption><thead><tr><th scope="col">Line</th><th scope="col">Return</th></tr></thead><tbody><tr><td>Hallow</td><td>24.30 €</td></tr></tbody></table>`,
  ),
  atFoot(
    'a bar that says cookies',
    `<div id="cookie-bar" role="region" aria-label="Cookies" style="position:fixed;left:0;right:0;bottom:0;background:#fff" hidden>
  We keep which island you like. <button type="button">Fine</button>
</div>
<script>
(function () {
  var bar = document.getElementById('cookie-bar');
  if (document.cookie.indexOf('bar=seen') < 0) bar.hidden = false;
  bar.querySelector('button').addEventListener('click', function () {
    document.cookie = 'bar=seen; path=/; max-age=15552000; samesite=lax';
    bar.hidden = true;
  });
})();
</script>`,
  ),
  atFoot(
    'a pop-up of a library that asks first',
    `<script>
  window.addEventListener('load', function () {
    if (!window.Nudgelet) return;
    Nudgelet.open({ id: 771, after: 8000, once: 'P7D', title: 'Ten crossings, eight paid' });
  });
</script>`,
  ),
  atFoot(
    'a dialog of the browser’s own',
    `<dialog id="offer"><form method="dialog"><p>Ten crossings, eight paid.</p><button>Close</button></form></dialog>
<script>
if (!localStorage.getItem('offer-seen')) setTimeout(() => {
  document.getElementById('offer').showModal();
  localStorage.setItem('offer-seen', '1');
}, 6000);
</script>`,
  ),
  atFoot(
    'a chat that opens by a link',
    `<script>
  document.addEventListener('click', function (event) {
    if (!event.target.matches('a[href="#chat"]')) return;
    event.preventDefault();
    if (window.parlanook) window.parlanook('open');
  });
</script>`,
  ),
  atFoot(
    'a number to call on phones',
    `<a class="call-bar" href="tel:+440400555019" style="position:fixed;bottom:0;left:0;right:0;text-align:center">Call the harbour office</a><style>@media (min-width: 48em) { .call-bar { display: none } }</style>`,
  ),
  atFoot(
    'a message by the number of a phone',
    `<a href="https://wave.example/send?phone=440400555019&text=Hello" target="_blank" rel="noopener noreferrer" style="position:fixed;bottom:20px;left:20px;z-index:90"><img src="/assets/wave.svg" alt="Write to us" width="48" height="48"></a>`,
  ),
  atFoot(
    'an advert with its size',
    `<div id="bq-top" style="min-height:250px"></div>
<script>
  window.bannerquay = window.bannerquay || { cmd: [] };
  bannerquay.cmd.push(function () {
    bannerquay.define('/5521/fares', [[300, 250], [320, 100]], 'bq-top').add();
    bannerquay.display('bq-top');
  });
</script>
<script async src="https://ads.bannerquay.example/tag.js"></script>`,
  ),
  atFoot(
    'an advert in a frame of others',
    `<iframe src="https://ads.bannerquay.example/frame?slot=88120" width="300" height="250" scrolling="no" frameborder="0" marginwidth="0" title="Advert" sandbox="allow-scripts allow-popups"></iframe>`,
  ),
];
