import type { CorpusSnippet } from '../corpus.js';

const atFoot = (name: string, code: string): CorpusSnippet => ({ name, placement: 'body-end', code });
const atTop = (name: string, code: string): CorpusSnippet => ({ name, placement: 'head-start', code });

/** What people write or copy together themselves, and containers and questions, which want to be first. */
export const OWN: readonly CorpusSnippet[] = [
  atTop(
    'a question for consent with its categories',
    `<script id="biscuitkeel" src="https://cdn.biscuitkeel.example/uc.js" data-keel="6d1f0a3e" data-blockingmode="auto" type="text/javascript"></script>`,
  ),
  atTop(
    'a question for consent in two tags',
    `<script type="text/javascript" src="https://cdn.biscuitkeel.example/6d1f0a3e/auto-block.js"></script>
<script src="https://cdn.biscuitkeel.example/sdk.js" type="text/javascript" charset="UTF-8" data-domain-script="6d1f0a3e"></script>
<script type="text/javascript">function KeelWrapper() {}</script>`,
  ),
  atTop(
    'a question for consent that is configured',
    `<script>
  window.biscuitkeelConfig = { layout: 'bar', position: 'bottom', categories: { statistics: false, adverts: false }, days: 180 };
</script>
<script src="https://cdn.biscuitkeel.example/keel.min.js"></script>`,
  ),
  atTop(
    'a container with a name of its own',
    `<script>(function(w,d,s,l,i){w[l]=w[l]||[];w[l].push({'crate.start':Date.now()});var j=d.createElement(s);j.async=true;j.src='https://load.skerrywick.example/crate.js?id='+i+'&l='+l;d.head.appendChild(j);})(window,document,'script','sailingLayer','CR-31-8');</script>`,
  ),
  atTop(
    'a container in many lines',
    `<!-- Crateline: begin -->
<script>
  (function (window, document, layer, id) {
    window[layer] = window[layer] || [];
    window[layer].push({ event: 'crate.js', start: new Date().getTime() });

    var loader = document.createElement('script');
    loader.async = true;
    loader.src = 'https://www.crateline.example/crate.js?id=' + id;

    var first = document.getElementsByTagName('script')[0];
    first.parentNode.insertBefore(loader, first);
  })(window, document, 'crateLayer', 'CR-20-3');
</script>
<!-- Crateline: end -->`,
  ),
  atFoot(
    'text that is put elsewhere',
    `<script>
var heading = document.querySelector('.page-id-12 h1');
if (heading) heading.insertAdjacentHTML('afterend', '<p class="season">Winter timetable</p>');
</script>`,
  ),
  atFoot(
    'a menu that shows where one is',
    `<script>
Array.from(document.querySelectorAll('nav a')).forEach(function (a) {
  if (a.pathname === location.pathname) a.setAttribute('aria-current', 'page');
});
</script>`,
  ),
  atFoot(
    'links that open in a new window',
    `<script>
for (const a of document.links) if (a.host !== location.host) { a.target = '_blank'; a.rel = 'noopener'; }
</script>`,
  ),
  atFoot(
    'a script of the old kind with everything in it',
    `<script language="JavaScript" type="text/javascript">
var tides = new Array("06:12", "12:31", "18:40");
function nextTide() {
  var now = new Date(), hours = now.getHours(), i;
  for (i = 0; i < tides.length; i++) {
    if (parseInt(tides[i].split(":")[0], 10) > hours) { return tides[i]; }
  }
  return tides[0];
}
if (document.getElementById("tide")) {
  document.getElementById("tide").innerHTML = nextTide();
}
</script>`,
  ),
  atFoot(
    'a class of one’s own',
    `<script>
  class Timetable {
    #rows = [];
    static from(table) { return new Timetable([...table.rows].map((row) => row.textContent.trim())); }
    constructor(rows) { this.#rows = rows; }
    get next() { return this.#rows.find((row) => row > new Date().toTimeString().slice(0, 5)) ?? this.#rows[0]; }
  }
  const table = document.querySelector('table.sailings');
  if (table) console.info('Next:', Timetable.from(table).next);
</script>`,
  ),
  atFoot(
    'code that waits for what comes later',
    `<script>
(function wait(tries) {
  var box = document.querySelector('.parlanook-box');
  if (box) box.style.bottom = '80px';
  else if (tries > 0) setTimeout(wait, 500, tries - 1);
})(20);
</script>`,
  ),
  atFoot(
    'code that watches for what comes later',
    `<script>
new MutationObserver(function (changes, observer) {
  var frame = document.querySelector('iframe[src*="slotwell.example"]');
  if (!frame) return;
  observer.disconnect();
  frame.title = 'Free places';
}).observe(document.body, { childList: true, subtree: true });
</script>`,
  ),
  atFoot(
    'weather from a service',
    `<div class="weather" data-station="SKW"></div>
<script>
(async () => {
  const box = document.querySelector('.weather');
  try {
    const answer = await fetch('https://weather.example/v1/now?station=' + box.dataset.station);
    if (!answer.ok) throw new Error(answer.statusText);
    const { wind, unit = 'kn' } = await answer.json();
    box.textContent = \`Wind \${wind} \${unit}\`;
  } catch { box.remove(); }
})();
</script>`,
  ),
  atFoot(
    'data that a script of the old kind fetches',
    `<script>
var request = new XMLHttpRequest();
request.open('GET', '/api/notices.json');
request.onload = function () {
  var notices = JSON.parse(request.responseText);
  if (notices.length && document.body) document.body.setAttribute('data-notices', notices.length);
};
request.send();
</script>`,
  ),
  atFoot(
    'an answer as a call',
    `<script>function showSailings(list) { window.sailingsToday = list; }</script>
<script async src="https://pierlist.example/api/today?stop=SKW&callback=showSailings"></script>`,
  ),
  atFoot(
    'words in many alphabets',
    `<p lang="ja">次の船は十時です。</p><p lang="ar" dir="rtl">القارب القادم في العاشرة</p><p lang="el">Το επόμενο πλοίο στις δέκα 🚢</p>`,
  ),
  atFoot(
    'quotes that belong there',
    `<p>“Two for one”, he said — and it’s true: <q lang="de">„Zwei zum Preis von einem“</q>.</p>
<script>window.offerWords = ['“Two for one”', "it’s true"];</script>`,
  ),
  atFoot(
    'code that is shown',
    `<figure><figcaption>How to add our timetable</figcaption><pre><code>&lt;script src="https://skerrywick.example/timetable.js"&gt;&lt;/script&gt;</code></pre></figure>`,
  ),
  atFoot(
    'markup in a script’s text',
    `<script>
var list = ['Hallow', 'Otterholm'];
var out = '<ul>';
for (var i = 0; i < list.length; i++) out += '<li>' + list[i] + '<\\/li>';
out += '<\\/ul>';
var place = document.getElementsByClassName('islands')[0];
if (place) place.innerHTML = out;
</script>`,
  ),
  atFoot(
    'less and more in a script',
    `<script>if (innerWidth < 600 && document.images.length > 3) for (let i = 0; i<document.images.length; i++) document.images[i].loading = 'lazy';</script>`,
  ),
  atFoot(
    'patterns with strange characters',
    `<script>
var postcode = /^[A-Z]{1,2}\\d[A-Z\\d]? ?\\d[A-Z]{2}$/i, quote = /["'\`]/g, slash = /\\/[^/]+\\/$/;
document.querySelectorAll('input[name=postcode]').forEach(function (field) {
  field.addEventListener('change', function () { field.setCustomValidity(postcode.test(field.value.replace(quote, '')) ? '' : 'Please check the postcode'); });
});
</script>`,
  ),
  atFoot(
    'a picture in the code',
    `<img alt="" width="1" height="1" src="data:image/gif;base64,R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7">`,
  ),
  atFoot('comments only', `<!-- Theme: Fairlead 3.2. Do not remove: the agency looks for this line. -->`),
  atFoot(
    'conditional comments of long ago',
    `<!--[if lt IE 9]><script src="https://files.example/html5-for-all-3.7.3.min.js"></script><![endif]-->
<p class="notice">Works on the slip.</p>`,
  ),
  atFoot(
    'a notice with times',
    `<p class="notice">Until <time datetime="2026-12-20">20 December</time> the last boat leaves at <time>18:40</time>.</p>`,
  ),
  atFoot(
    'a worker for one page',
    `<script>
if (window.Worker && document.querySelector('#tide-chart')) {
  const worker = new Worker('/assets/tides-worker.js');
  worker.onmessage = ({ data }) => { document.querySelector('#tide-chart').dataset.points = data.length; };
  worker.postMessage({ station: 'SKW', days: 7 });
}
</script>`,
  ),
  atFoot(
    'a shop’s small cart',
    `<script>
document.addEventListener('cart:changed', function (event) {
  var badge = document.querySelector('.cart-count');
  if (badge) badge.textContent = event.detail.count;
});
</script>`,
  ),
  atFoot(
    'a price in another currency',
    `<script>
const krone = new Intl.NumberFormat('nb-NO', { style: 'currency', currency: 'NOK' });
document.querySelectorAll('[data-eur]').forEach((place) => {
  place.title = krone.format(Number(place.dataset.eur) * 11.4);
});
</script>`,
  ),
  atFoot(
    'keys that do something',
    `<script>addEventListener('keydown', (event) => { if (event.key === '/' && !/input|textarea/i.test(event.target.tagName)) { event.preventDefault(); document.querySelector('[type=search]')?.focus(); } });</script>`,
  ),
  atFoot(
    'a script with a label and a switch',
    `<script>
search: for (const list of document.querySelectorAll('ul.lines')) {
  for (const item of list.children) {
    switch (item.dataset.state) {
      case 'cancelled': item.classList.add('off'); continue search;
      case undefined: break;
      default: item.classList.add('on');
    }
  }
}
</script>`,
  ),
  atFoot(
    'a generator',
    `<script>function* lines() { yield* document.querySelectorAll('[data-line]'); } for (const line of lines()) line.id ||= 'line-' + line.dataset.line;</script>`,
  ),
  atFoot(
    'a clock',
    `<output class="clock"></output><script>setInterval(() => { const [clock] = document.getElementsByClassName('clock'); clock.value = new Date().toLocaleTimeString(); }, 1000);</script>`,
  ),
  atFoot(
    'packed code',
    `<script>eval(function(p,a,c,k,e,d){e=function(c){return c};while(c--){if(k[c]){p=p.replace(new RegExp('\\\\b'+e(c)+'\\\\b','g'),k[c])}}return p}('0.1="2"',3,3,'window|packed|yes'.split('|'),0,{}))</script>`,
  ),
];
