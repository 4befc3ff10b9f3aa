import type { CorpusSnippet } from './corpus.js';

/** Loaders as providers hand them out: minified, with queues, in two pieces. */
export const LOADERS: readonly CorpusSnippet[] = [
  {
    name: 'container with its queue, minified',
    statement: 'Paste this code as high in the <head> of the page as possible.',
    placement: 'head-start',
    code: `<!-- Crateline -->
<script>(function(w,d,s,l,i){w[l]=w[l]||[];w[l].push({'crate.start':new Date().getTime(),event:'crate.js'});var f=d.getElementsByTagName(s)[0],j=d.createElement(s),dl=l!='crateLayer'?'&l='+l:'';j.async=true;j.src='https://www.crateline.example/crate.js?id='+i+dl;f.parentNode.insertBefore(j,f);})(window,document,'script','crateLayer','CR-20-3');</script>
<!-- End Crateline -->`,
  },
  {
    name: 'container for browsers without scripts',
    statement: 'Paste this immediately after the opening <body> tag.',
    placement: 'body-start',
    code: `<noscript><iframe src="https://www.crateline.example/no-script.html?id=CR-20-3" height="0" width="0" style="display:none;visibility:hidden"></iframe></noscript>`,
  },
  {
    name: 'pixel with a function for a queue, minified',
    placement: 'head-end',
    code: `<script>!function(f,b,e,v,n,t,s){if(f.glint)return;n=f.glint=function(){n.callMethod?n.callMethod.apply(n,arguments):n.queue.push(arguments)};if(!f._glint)f._glint=n;n.push=n;n.loaded=!0;n.version='2.0';n.queue=[];t=b.createElement(e);t.async=!0;t.src=v;s=b.getElementsByTagName(e)[0];s.parentNode.insertBefore(t,s)}(window,document,'script','https://cdn.glintpixel.example/en/glint.js');
glint('init','44170012');glint('track','PageView');</script><noscript><img height="1" width="1" style="display:none" src="https://www.glintpixel.example/tr?id=44170012&ev=PageView&noscript=1"></noscript>`,
  },
  {
    name: 'counter: async tag, then settings',
    placement: 'head-end',
    code: `<!-- Tallymast: counts visits -->
<script async src="https://www.tallymast.example/tally/js?id=TM-7731"></script>
<script>
  window.tallyLayer = window.tallyLayer || [];
  function tally(){tallyLayer.push(arguments);}
  tally('js', new Date());
  tally('config', 'TM-7731');
</script>`,
  },
  {
    name: 'counter of the old kind',
    placement: 'head-end',
    code: `<script type="text/javascript">
  var _tmq = _tmq || [];
  _tmq.push(['setAccount', 'TM-7731-2']);
  _tmq.push(['trackPageview']);
  (function() {
    var tm = document.createElement('script'); tm.type = 'text/javascript'; tm.async = true;
    tm.src = ('https:' == document.location.protocol ? 'https://ssl' : 'http://www') + '.tallymast.example/tm.js';
    var s = document.getElementsByTagName('script')[0]; s.parentNode.insertBefore(tm, s);
  })();
</script>`,
  },
  {
    name: 'chat: settings, then the loader',
    placement: 'body-end',
    code: `<script>window.parlanook = { room: 'harbour-office', greeting: 'Ask the harbour office' };</script>
<script async src="https://cdn.parlanook.example/chat.js"></script>`,
  },
  {
    name: 'chat with a stub of methods',
    placement: 'body-end',
    code: `<script>
(function(w, d, id) {
  var nook = w.Parlanook = w.Parlanook || {};
  nook.q = nook.q || [];
  ['open', 'close', 'identify'].forEach(function (m) {
    nook[m] = function () { nook.q.push([m].concat([].slice.call(arguments))); };
  });
  nook.room = id;
  w.addEventListener('load', function () {
    var s = d.createElement('script');
    s.src = 'https://cdn.parlanook.example/widget/' + id + '.js';
    s.defer = true;
    d.head.appendChild(s);
  });
})(window, document, 'PN-40021');
</script>`,
  },
  {
    name: 'chat with a protocol-relative address and a cache-buster',
    placement: 'body-end',
    code: `<script>var nook_id="r-5518";(function(){var s=document.createElement("script");s.async=1;s.src="//cdn.parlanook.example/chat.js?v="+(+new Date());document.body.appendChild(s)})();</script>`,
  },
  {
    name: 'loader through a helper that is called once',
    placement: 'head-end',
    code: `<script>
function loadScript(url, done) {
  const el = document.createElement('script');
  Object.assign(el, { src: url, async: true });
  el.onload = done;
  document.head.append(el);
}
loadScript('https://easewheel.example/ease.js', function () { Easewheel.start({ corner: 'left' }); });
</script>`,
  },
  {
    name: 'loader with setAttribute and template text',
    placement: 'head-end',
    code: "<script>\nconst account = 'GP-4417';\nconst host = `https://glintpixel.example`;\nconst tag = document.createElement('script');\ntag.setAttribute('src', `${host}/glint.js?account=${account}&v=3`);\ntag.setAttribute('data-region', 'north');\ndocument.querySelector('head').appendChild(tag);\n</script>",
  },
  {
    name: 'loader after a timer',
    placement: 'body-end',
    code: `<script>setTimeout(function(){var n=document.createElement('script');n.src='https://nudgelet.example/nudge.js';n.dataset={};document.body.appendChild(n);},5000);</script>`,
  },
  {
    name: 'module that imports',
    placement: 'head-end',
    code: `<script type="module">
import { start } from 'https://sharebuoy.example/share.mjs';
start({ buttons: ['mail', 'copy'] });
</script>`,
  },
  {
    name: 'module and its old form',
    placement: 'head-end',
    code: `<script type="module" src="https://easewheel.example/ease.mjs"></script>
<script nomodule defer src="https://easewheel.example/ease.js"></script>`,
  },
  {
    name: 'dynamic import on a click',
    placement: 'body-end',
    code: `<button id="help">Help</button>
<script>
document.getElementById('help').addEventListener('click', async () => {
  const { open } = await import('https://parlanook.example/help.mjs');
  open();
});
</script>`,
  },
  {
    name: 'advert of the old kind',
    placement: { anchor: 'advert', side: 'inside' },
    code: `<script>
bannerquay_slot = "SQ-118";
bannerquay_width = 300;
</script>
<script src="https://ads.bannerquay.example/show.js"></script>`,
  },
  {
    name: 'advert that is written into the page',
    placement: 'body-end',
    code: `<script>var q='4417';var u=location.protocol+'//ads.bannerquay.example/show.js';document.write('<scr'+'ipt src="'+u+'?slot='+q+'"><\\/scr'+'ipt>');</script>`,
  },
  {
    name: 'advert slot with a push',
    placement: { anchor: 'advert', side: 'inside' },
    code: `<ins class="bannerquay" style="display:block" data-ad-client="bq-pub-5521" data-ad-slot="88120"></ins>
<script>(bannerquay = window.bannerquay || []).push({});</script>`,
  },
  {
    name: 'consent, blocking, first in the head',
    statement: 'This must be the first script in the head.',
    placement: 'head-start',
    code: `<script src="https://biscuitkeel.example/consent.js" data-site="skerrywick"></script>`,
  },
  {
    name: 'consent with a default before the loader',
    placement: 'head-start',
    code: `<script>
window.tallyLayer = window.tallyLayer || [];
function tally() { tallyLayer.push(arguments); }
tally('consent', 'default', { ads: 'denied', visits: 'denied', wait: 500 });
</script>
<script src="https://biscuitkeel.example/consent.js" data-key="bk-9917"></script>`,
  },
];
