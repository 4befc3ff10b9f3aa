import type { CorpusSnippet } from '../corpus.js';

/** A made-up provider, as far as its code names it. */
interface Maker {
  readonly what: string;
  readonly host: string;
  readonly file: string;
  readonly global: string;
  readonly account: string;
}

const MAKERS: readonly Maker[] = [
  { what: 'counter', host: 'tallymast.example', file: 'tally.js', global: 'tally', account: 'TM-7731' },
  { what: 'pixel', host: 'glintpixel.example', file: 'glint.js', global: 'glint', account: 'GP-4417' },
  { what: 'chat', host: 'parlanook.example', file: 'chat.js', global: 'parlanook', account: 'PN-40021' },
  { what: 'pop-up', host: 'nudgelet.example', file: 'nudge.js', global: 'nudgelet', account: 'NL-5520' },
  { what: 'form', host: 'formhatch.example', file: 'forms.js', global: 'formhatch', account: 'FH-3108' },
  { what: 'advert', host: 'bannerquay.example', file: 'show.js', global: 'bannerquay', account: 'BQ-55213' },
];

/** The ways in which providers have their scripts loaded. */
const STYLES: Readonly<Record<string, (maker: Maker) => string>> = {
  'a tag with its account in the address': ({ host, file, account }) =>
    `<script async src="https://cdn.${host}/${file}?id=${account}"></script>`,
  'a tag with its account in an attribute': ({ host, file, account }) =>
    `<script defer src="https://${host}/v2/${file}" data-account="${account}" data-lang="en"></script>`,
  'a tag with many attributes, one to a line': ({ host, file, account, global }) => `<script
  id="${global}-script"
  type="text/javascript"
  charset="utf-8"
  data-cfasync="false"
  data-site="${account}"
  src="//static.${host}/${file}"
  async
  defer
></script>`,
  'capital letters and no quotes': ({ host, file, account }) =>
    `<SCRIPT TYPE=text/javascript SRC=https://${host}/${file}?c=${account} ASYNC></SCRIPT>`,
  'comments of the old kind around the code': ({
    host,
    file,
    global,
    account,
  }) => `<script type="text/javascript">
<!--
var ${global}_id = "${account}";
//-->
</script>
<script type="text/javascript" src="https://${host}/${file}"></script>`,
  'a section of character data': ({ host, file, account, global }) => `<script type="text/javascript">
/* <![CDATA[ */
var ${global}Settings = { "account": "${account}", "region": "north" };
/* ]]> */
</script>
<script async src="https://${host}/${file}"></script>`,
  'settings, then a function that is called at once': ({ host, file, global, account }) => `<script>
  window.${global}Settings = { account: '${account}' };
  (function () {
    var script = document.createElement('script');
    script.async = true;
    script.src = 'https://${host}/${file}';
    var first = document.getElementsByTagName('script')[0];
    first.parentNode.insertBefore(script, first);
  })();
</script>`,
  'the load event, for old browsers too': ({ host, file, global, account }) => `<script>
(function(){var a='${account}';var load=function(){var d=document,s=d.createElement('script');s.type='text/javascript';s.async=true;s.src='https://w.${host}/'+a+'/${file}';var x=d.getElementsByTagName('script')[0];x.parentNode.insertBefore(s,x);};
if(window.${global}Ready){load();}else if(window.attachEvent){window.attachEvent('onload',load);}else{window.addEventListener('load',load,false);}})();
</script>`,
  'a queue in one expression': ({ host, file, global, account }) =>
    `<script>window.${global}=window.${global}||function(){(window.${global}.q=window.${global}.q||[]).push(arguments)};window.${global}.l=+new Date;${global}('init','${account}');</script><script async src="https://${host}/${file}"></script>`,
  'a minified loader with its names as arguments': ({ host, file, global, account }) =>
    `<script>!function(e,t,n,a,c){e[a]=e[a]||function(){(e[a].q=e[a].q||[]).push(arguments)};var r=t.createElement(n);r.async=1;r.src=c;var o=t.getElementsByTagName(n)[0];o.parentNode.insertBefore(r,o)}(window,document,"script","${global}","https://${host}/${file}");${global}("create","${account}");${global}("send","pageview");</script>`,
  'an array of commands': ({ host, file, global, account }) => `<script>
var _${global} = window._${global} || [];
_${global}.push(["setAccount", "${account}"]);
_${global}.push(["enableLinks"]);
_${global}.push(["trackPageView"]);
(function() {
  var u = "https://${host}/";
  _${global}.push(["setUrl", u + "collect"]);
  var d = document, g = d.createElement("script"), s = d.getElementsByTagName("script")[0];
  g.async = true; g.src = u + "${file}"; s.parentNode.insertBefore(g, s);
})();
</script>`,
  'a modern function with parameters taken apart': ({ host, file, account }) => `<script>
  (({ src, ...data }) => {
    const tag = Object.assign(document.createElement('script'), { src, async: true });
    for (const [key, value] of Object.entries(data)) tag.dataset[key] = value;
    document.head.append(tag);
  })({ src: 'https://${host}/${file}', account: '${account}', version: '3' });
</script>`,
  'a module': ({ host, global, account }) => `<script type="module">
  import { init } from 'https://esm.${host}/${global}@4.js';
  init({ account: '${account}' });
</script>`,
  'loading when the browser has nothing else to do': ({ host, file, account }) => `<script>
  const later = window.requestIdleCallback || ((run) => setTimeout(run, 1));
  later(() => {
    const script = document.createElement('script');
    script.src = 'https://${host}/${file}';
    script.setAttribute('data-id', '${account}');
    document.body.appendChild(script);
  });
</script>`,
  'loading at the first sign of life': ({ host, file, account }) => `<script>
(function () {
  var events = ['mousemove', 'touchstart', 'keydown', 'scroll'], isLoaded = false;
  function load() {
    if (isLoaded) return;
    isLoaded = true;
    events.forEach(function (name) { window.removeEventListener(name, load); });
    var script = document.createElement('script');
    script.src = 'https://${host}/${file}?key=${account}';
    document.head.appendChild(script);
  }
  events.forEach(function (name) { window.addEventListener(name, load, { passive: true, once: true }); });
})();
</script>`,
  'loading when its place comes into view': ({
    host,
    file,
    global,
    account,
  }) => `<div id="${global}-place" data-id="${account}"></div>
<script>
  new IntersectionObserver(function (entries, observer) {
    if (!entries[0].isIntersecting) return;
    observer.disconnect();
    var script = document.createElement('script');
    script.src = 'https://${host}/${file}';
    document.body.appendChild(script);
  }).observe(document.getElementById('${global}-place'));
</script>`,
  'a promise that others may wait for': ({ host, file, global, account }) => `<script>
window.${global}Ready = new Promise(function (resolve, reject) {
  var script = document.createElement('script');
  script.src = 'https://${host}/${file}';
  script.async = true;
  script.onload = function () { resolve('${account}'); };
  script.onerror = reject;
  document.head.appendChild(script);
});
</script>`,
  'code that another tool made of newer code': ({ host, file, global, account }) =>
    `<script>"use strict";function _defineProperty(e,t,r){return t in e?Object.defineProperty(e,t,{value:r,enumerable:!0,configurable:!0,writable:!0}):e[t]=r,e}(function(){var e=_defineProperty({},"account","${account}"),t=document.createElement("script");t.async=!0,t.src="https://".concat("${host}","/","${file}"),t.onload=function(){return window.${global}&&window.${global}.start(e)},document.head.appendChild(t)})();</script>`,
};

/** Each style by two providers, so that every kind of provider comes in many. */
export const BY_STYLE: readonly CorpusSnippet[] = Object.entries(STYLES).flatMap(([style, write], number) =>
  [0, 2, 3, 5].map((step): CorpusSnippet => {
    const maker = MAKERS[(number + step) % MAKERS.length]!;
    return { name: `${maker.what}: ${style}`, placement: 'body-end', code: write(maker) };
  }),
);
