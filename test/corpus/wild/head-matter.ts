import type { CorpusSnippet } from '../corpus.js';

const inHead = (name: string, code: string, statement?: string): CorpusSnippet => ({
  name,
  placement: 'head-end',
  code,
  ...(statement === undefined ? {} : { statement }),
});

/** What goes into the head and is nothing that visitors see by itself: data, proofs, fonts, hints, styles. */
export const HEAD_MATTER: readonly CorpusSnippet[] = [
  inHead(
    'a ferry for machines',
    `<script type="application/ld+json">
{
  "@context": "https://schema.org",
  "@type": "BoatTrip",
  "name": "Hallow line",
  "departureBoatTerminal": { "@type": "BoatTerminal", "name": "Skerrywick" },
  "arrivalBoatTerminal": { "@type": "BoatTerminal", "name": "Hallow" }
}
</script>`,
  ),
  inHead(
    'questions and answers for machines',
    `<script type="application/ld+json">{"@context":"https://schema.org","@type":"FAQPage","mainEntity":[{"@type":"Question","name":"May I bring a bicycle?","acceptedAnswer":{"@type":"Answer","text":"Yes, for 2 \\u20ac a crossing. <a href=\\"/fares\\">Fares</a>"}}]}</script>`,
  ),
  inHead(
    'several things for machines',
    `<script type="application/ld+json">
[
  { "@context": "https://schema.org", "@type": "BreadcrumbList", "itemListElement": [] },
  { "@context": "https://schema.org", "@type": "WebSite", "url": "https://skerrywick.example/" }
]
</script>`,
  ),
  inHead(
    'data that a script puts there',
    `<script>
  const data = { '@context': 'https://schema.org', '@type': 'Event', name: document.title };
  const place = document.createElement('script');
  place.type = 'application/ld+json';
  place.text = JSON.stringify(data);
  document.head.appendChild(place);
</script>`,
  ),
  inHead(
    'proof of ownership, with its name in a comment',
    `<!-- Pierlist -->
<meta name="pierlist-site-verification" content="0f3c6d2b9a7e" />`,
  ),
  inHead(
    'two proofs at once',
    `<meta name="harbourmaster-verify" content="hm-77120"/><meta name="glint-domain-verification" content="ab12cd34ef56"/>`,
  ),
  inHead(
    'a picture for shared links',
    `<meta property="og:image" content="https://skerrywick.example/assets/boat.jpg">
<meta property="og:image:width" content="1200">
<meta name="twitter:card" content="summary_large_image">`,
  ),
  inHead(
    'colours of the browser',
    `<meta name="theme-color" media="(prefers-color-scheme: light)" content="#f6efe2">
<meta name="theme-color" media="(prefers-color-scheme: dark)" content="#12202b">`,
  ),
  inHead(
    'pictures for the tab',
    `<link rel="icon" href="/assets/boat.svg" type="image/svg+xml">
<link rel="apple-touch-icon" sizes="180x180" href="/assets/boat-180.png">
<link rel="manifest" href="/site.webmanifest">`,
  ),
  inHead(
    'fonts with a fallback for no scripts',
    `<link rel="preload" as="style" href="https://letters.example/css2?family=Sea+Serif&display=swap" onload="this.onload=null;this.rel='stylesheet'">
<noscript><link rel="stylesheet" href="https://letters.example/css2?family=Sea+Serif&display=swap"></noscript>`,
  ),
  inHead(
    'fonts that are declared',
    `<style>
@font-face {
  font-family: "Sea Sans";
  src: url("/assets/sea-sans.woff2") format("woff2");
  font-display: swap;
}
</style>`,
  ),
  inHead(
    'hints where more will come from',
    `<link rel="preconnect" href="https://cdn.parlanook.example">
<link rel="dns-prefetch" href="//cdn.glintpixel.example">
<link rel="preload" as="image" href="/assets/boat.avif" imagesrcset="/assets/boat.avif 1x, /assets/boat-2x.avif 2x" fetchpriority="high">`,
  ),
  inHead(
    'pages that will be wanted next',
    `<script type="speculationrules">
{ "prefetch": [{ "where": { "href_matches": "/fares/*" }, "eagerness": "moderate" }] }
</script>`,
  ),
  inHead(
    'where names come from in modules',
    `<script type="importmap">{ "imports": { "tides": "https://esm.example/tides@2.1.0/index.js" } }</script>`,
  ),
  inHead(
    'a style sheet of a library',
    `<link rel="stylesheet" href="https://files.example/slidewell/2.4.1/slidewell.min.css" integrity="sha384-oqVuAfXRKap7fdgcCY5uykM6+R9GqQ8K/uxy9rx7HNQlGYl1kPzQho1wx4JwY8wC" crossorigin="anonymous">`,
  ),
  inHead(
    'a library with its hash',
    `<script defer src="https://files.example/slidewell/2.4.1/slidewell.min.js" integrity="sha384-oqVuAfXRKap7fdgcCY5uykM6+R9GqQ8K/uxy9rx7HNQlGYl1kPzQho1wx4JwY8wC" crossorigin="anonymous"></script>`,
  ),
  inHead(
    'styles for print',
    `<style media="print">nav, .chat, footer { display: none } a::after { content: " (" attr(href) ")" }</style>`,
  ),
  inHead(
    'styles with variables',
    `<style>
:root { --sea: #0b4a6f; --sand: #f6efe2; }
.button { background: var(--sea); color: var(--sand); border-radius: .25rem; }
.button:is(:hover, :focus-visible) { outline: 2px solid currentColor; }
@media (max-width: 40rem) { .button { width: 100%; } }
</style>`,
  ),
  inHead(
    'styles that are nested',
    `<style>
.timetable {
  & td { padding: .4rem; }
  &.wide { max-width: none; }
  @container (width > 30rem) { & th { text-align: left; } }
}
</style>`,
  ),
  inHead(
    'styles that take something out of sight',
    `<style>.builder-badge, .footer-credits { display: none !important; }</style>`,
  ),
  inHead(
    'a class for browsers with scripts',
    `<script>document.documentElement.className = document.documentElement.className.replace('no-js', 'js');</script>`,
  ),
  inHead(
    'a dark look that is remembered',
    `<script>
(() => {
  const kept = localStorage.getItem('look');
  const isDark = kept ? kept === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches;
  document.documentElement.classList.toggle('dark', isDark);
})();
</script>`,
  ),
  inHead(
    'a language by the browser’s',
    `<script>
if (!/^en\\b/i.test(navigator.language) && !sessionStorage.language) {
  sessionStorage.language = 'asked';
  document.documentElement.setAttribute('data-offer-language', navigator.language);
}
</script>`,
  ),
  inHead(
    'settings for the theme',
    `<script id="theme-settings">
  var themeSettings = {"stickyHeader":true,"animations":"fade","breakpoints":{"phone":600,"tablet":960}};
</script>`,
  ),
  inHead(
    'a global that other code reads',
    `<script>window.SKERRYWICK = Object.freeze({ season: 'winter', boats: ['Otter', 'Tern'] });</script>`,
  ),
  inHead(
    'a helper for old browsers',
    `<script>window.queueMicrotask || (window.queueMicrotask = function (run) { Promise.resolve().then(run); });</script>`,
  ),
  inHead(
    'a helper library from a file',
    `<script>window.fetch || document.write('<script src="/assets/fetch-for-all.js"><\\/script>')</script>`,
  ),
  inHead(
    'who may be asked in pages of others',
    `<meta http-equiv="origin-trial" content="AbC0dEf1gHi2jKl3==">`,
  ),
  inHead(
    'a feed',
    `<link rel="alternate" type="application/rss+xml" title="Sailings news" href="/news/feed.xml">`,
  ),
  inHead(
    'other languages of the page',
    `<link rel="alternate" hreflang="nb" href="https://skerrywick.example/nb/">
<link rel="alternate" hreflang="x-default" href="https://skerrywick.example/">`,
  ),
];
