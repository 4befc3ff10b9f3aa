import type { CorpusSnippet } from '../corpus.js';

/** What people send to counters and pixels when something happens on a page. */
export const SIGNALS: readonly CorpusSnippet[] = [
  {
    name: 'a purchase on the confirmation page',
    placement: 'body-end',
    code: `<script>
  window.crateLayer = window.crateLayer || [];
  crateLayer.push({
    event: 'purchase',
    order: { id: '20261130-0412', value: 48.6, currency: 'EUR', items: [{ name: 'Hallow day return', quantity: 2 }] }
  });
</script>`,
  },
  {
    name: 'a purchase with values out of the page',
    placement: 'body-end',
    code: `<script>
(function () {
  var total = document.querySelector('[data-order-total]');
  if (!total || typeof glint !== 'function') return;
  glint('track', 'Purchase', { value: parseFloat(total.dataset.orderTotal), currency: 'EUR' });
})();
</script>`,
  },
  {
    name: 'a picture that counts a sale',
    placement: 'body-end',
    code: `<img src="https://in.glintpixel.example/sale?account=GP-4417&amp;value=48.60&amp;order=0412" width="1" height="1" border="0" alt="">`,
  },
  {
    name: 'how far visitors scroll',
    placement: 'body-end',
    code: `<script>
(function () {
  var marks = [25, 50, 75, 100], seen = {};
  window.addEventListener('scroll', function () {
    var height = document.documentElement.scrollHeight - window.innerHeight;
    var share = height > 0 ? Math.round((window.scrollY / height) * 100) : 100;
    marks.forEach(function (mark) {
      if (share >= mark && !seen[mark]) {
        seen[mark] = true;
        if (window.tally) window.tally('event', 'scroll', { share: mark });
      }
    });
  }, { passive: true });
})();
</script>`,
  },
  {
    name: 'which links lead away',
    placement: 'body-end',
    code: `<script>
document.addEventListener('click', function (event) {
  var link = event.target.closest && event.target.closest('a[href^="http"]');
  if (link && link.host !== location.host && window.crateLayer) {
    window.crateLayer.push({ event: 'outbound', to: link.hostname });
  }
});
</script>`,
  },
  {
    name: 'calls and mails that are begun',
    placement: 'body-end',
    code: `<script>
jQueryless(document.querySelectorAll('a[href^="tel:"], a[href^="mailto:"]'));
function jQueryless(links) {
  for (var i = 0; i < links.length; i++) {
    links[i].addEventListener('click', function () {
      if (window.tally) tally('event', this.protocol === 'tel:' ? 'call' : 'mail');
    });
  }
}
</script>`,
  },
  {
    name: 'files that are fetched',
    placement: 'body-end',
    code: `<script>
  const FILES = /\\.(pdf|ics|zip)(\\?|$)/i;
  document.body.addEventListener('click', ({ target }) => {
    const link = target.closest('a');
    if (link && FILES.test(link.href)) navigator.sendBeacon('https://in.tallymast.example/file', link.pathname);
  });
</script>`,
  },
  {
    name: 'a form that was sent',
    placement: 'body-end',
    code: `<script>
window.addEventListener('message', function (event) {
  if (event.origin !== 'https://formhatch.example') return;
  if (event.data && event.data.type === 'form-sent') {
    (window.crateLayer = window.crateLayer || []).push({ event: 'lead', form: event.data.id });
  }
});
</script>`,
  },
  {
    name: 'views of a single-page application',
    placement: 'head-end',
    code: `<script>
(function (history) {
  var push = history.pushState;
  function seen() { if (window.tally) window.tally('event', 'view', { path: location.pathname }); }
  history.pushState = function () { var result = push.apply(this, arguments); seen(); return result; };
  window.addEventListener('popstate', seen);
})(window.history);
</script>`,
  },
  {
    name: 'errors that visitors meet',
    placement: 'head-end',
    code: `<script>
addEventListener('error', function (event) {
  if (!event.filename) return;
  fetch('https://in.tallymast.example/errors', {
    method: 'POST',
    keepalive: true,
    body: JSON.stringify({ message: event.message, file: event.filename, line: event.lineno })
  });
});
</script>`,
  },
  {
    name: 'how quick pages are',
    placement: 'body-end',
    code: `<script type="module">
  const seen = new Map();
  new PerformanceObserver((list) => {
    for (const entry of list.getEntries()) seen.set(entry.entryType, entry.startTime);
  }).observe({ type: 'largest-contentful-paint', buffered: true });
  addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'hidden')
      navigator.sendBeacon('https://in.tallymast.example/speed', JSON.stringify([...seen]));
  });
</script>`,
  },
  {
    name: 'where visitors came from, kept for later',
    placement: 'head-end',
    code: `<script>
(function () {
  var query = new URLSearchParams(location.search), kept = {};
  ['utm_source', 'utm_medium', 'utm_campaign'].forEach(function (name) {
    if (query.get(name)) kept[name] = query.get(name);
  });
  if (Object.keys(kept).length) sessionStorage.setItem('came-from', JSON.stringify(kept));
})();
</script>`,
  },
  {
    name: 'hidden fields filled in',
    placement: 'body-end',
    code: `<script>
document.querySelectorAll('form input[name="came_from"]').forEach(function (field) {
  try { field.value = sessionStorage.getItem('came-from') || ''; } catch (error) {}
});
</script>`,
  },
  {
    name: 'consent as it stands by default',
    placement: 'head-start',
    code: `<script>
  window.tallyLayer = window.tallyLayer || [];
  function tally() { tallyLayer.push(arguments); }
  tally('consent', 'default', { ad_storage: 'denied', analytics_storage: 'denied', wait_for_update: 500 });
</script>`,
  },
  {
    name: 'consent that is given',
    placement: 'body-end',
    code: `<script>
window.addEventListener('biscuitkeel:change', function (event) {
  if (event.detail.statistics && window.tally) window.tally('consent', 'update', { analytics_storage: 'granted' });
});
</script>`,
  },
  {
    name: 'who is signed in',
    placement: 'head-end',
    code: `<script>
  var member = document.cookie.match(/(?:^|; )member=([^;]*)/);
  window.crateLayer = window.crateLayer || [];
  crateLayer.push({ visitor: member ? 'member' : 'guest' });
</script>`,
  },
  {
    name: 'a video that is watched',
    placement: 'body-end',
    code: `<script>
document.addEventListener('DOMContentLoaded', function () {
  [].forEach.call(document.getElementsByTagName('video'), function (video) {
    video.addEventListener('ended', function () {
      window.crateLayer && window.crateLayer.push({ event: 'video-ended', src: video.currentSrc });
    });
  });
});
</script>`,
  },
  {
    name: 'a search on the site',
    placement: 'body-end',
    code: `<script>if (location.pathname === '/search' && window.glint) { glint('event', 'search', { words: new URLSearchParams(location.search).get('q') }); }</script>`,
  },
  {
    name: 'two halves of a test',
    placement: 'head-start',
    code: `<script>
(function () {
  var half;
  try { half = localStorage.getItem('ab-fares'); } catch (error) {}
  if (!half) {
    half = Math.random() < 0.5 ? 'a' : 'b';
    try { localStorage.setItem('ab-fares', half); } catch (error) {}
  }
  document.documentElement.classList.add('fares-' + half);
})();
</script>`,
  },
  {
    name: 'calls to another number for visitors from adverts',
    placement: 'body-end',
    code: `<script>
if (/[?&]from=advert/.test(location.search)) {
  var numbers = document.querySelectorAll('.phone');
  for (var i = 0; i < numbers.length; i++) {
    numbers[i].textContent = '0400 555 019';
    numbers[i].href = 'tel:0400555019';
  }
}
</script>`,
  },
  {
    name: 'a heat map with its own queue',
    placement: 'head-end',
    code: `<script>
    (function(h,o,t,j,a,r){
        h.warmchart=h.warmchart||function(){(h.warmchart.q=h.warmchart.q||[]).push(arguments)};
        h._wcSettings={id:771204,version:6};
        a=o.getElementsByTagName('head')[0];
        r=o.createElement('script');r.async=1;
        r.src=t+h._wcSettings.id+j+h._wcSettings.version;
        a.appendChild(r);
    })(window,document,'https://static.warmchart.example/c/warm-','.js?v=');
</script>`,
  },
  {
    name: 'a counter on one’s own host',
    placement: 'head-end',
    code: `<script async defer data-domain="skerrywick.example" src="/stats/js/script.outbound.js"></script>
<script>window.measure = window.measure || function () { (window.measure.q = window.measure.q || []).push(arguments); };</script>`,
  },
];
