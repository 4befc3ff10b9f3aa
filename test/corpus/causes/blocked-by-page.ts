import { atFoot, inHead, page, type Cause, type CauseKind, type CleanSite } from './cause.js';

const CHAT = '<script async src="https://parlanook.example/chat.js"></script>';
const LOADER =
  '<script>(function (d) { var s = d.createElement("script"); s.async = 1; s.src = "https://parlanook.example/chat.js"; d.head.appendChild(s); })(document);</script>';
const WRITES = '<script>document.getElementById("news").innerHTML = "<p>Works</p>";</script>';
const pages = (policy: string) => ({
  '/': page('<div id="news"></div>', `<meta http-equiv="Content-Security-Policy" content="${policy}">`),
});
const wrong = (name: string, policy: string, code: string, says: RegExp): Cause => ({
  name,
  snippets: [atFoot('Chat', code)],
  site: { pages: pages(policy) },
  check: 'blocked-by-policy',
  about: ['Chat'],
  says,
});
const clean = (name: string, policy: string, code: string): CleanSite => ({
  name,
  snippets: [atFoot('Chat', code)],
  site: { pages: pages(policy) },
});
const INLINE = "'unsafe-inline'";

/** What the page, or a frame, does not let happen. */
export const BLOCKED_BY_PAGE: CauseKind = {
  kind: 'blocked by the page',
  wrong: [
    wrong('a host is not on the list', `script-src 'self'`, CHAT, /parlanook\.example/),
    wrong('a script makes the loader', `script-src 'self' ${INLINE}`, LOADER, /parlanook\.example/),
    wrong('only marked scripts are trusted', "script-src 'strict-dynamic' 'nonce-a1'", CHAT, /nonce/),
    wrong(
      'a beacon has no place to go',
      "connect-src 'self'",
      '<script>fetch("https://in.parlanook.example/seen");</script>',
      /in\.parlanook\.example/,
    ),
    wrong(
      'a picture is made by a script',
      "img-src 'self'",
      '<script>new Image().src = "https://in.parlanook.example/p.gif";</script>',
      /in\.parlanook\.example/,
    ),
    wrong(
      'code stands in the page',
      "script-src 'self' https://parlanook.example",
      '<script>window.chat = [];</script>',
      /forbids code/,
    ),
    wrong('Trusted Types are asked for', "require-trusted-types-for 'script'", WRITES, /Trusted Types/),
    wrong(
      'Trusted Types are asked for, and a script makes a loader',
      "require-trusted-types-for 'script'",
      LOADER,
      /Trusted Types/,
    ),
    wrong(
      'code is made of text',
      `script-src 'self' ${INLINE}`,
      '<script>window.sum = new Function("a", "b", "return a + b");</script>',
      /unsafe-eval/,
    ),
    wrong(
      'eval is called',
      `script-src 'self' ${INLINE}`,
      '<script>eval("window.ready = 1");</script>',
      /unsafe-eval/,
    ),
    {
      name: 'the page is in a sandbox',
      snippets: [atFoot('Chat', CHAT)],
      site: {
        pages: { '/': page('Home') },
        policies: [
          {
            policies: [{ value: 'sandbox allow-forms', from: 'header', isReportOnly: false }],
            address: 'https://www.site.example',
            paths: ['/'],
          },
        ],
      },
      check: 'blocked-by-policy',
      about: ['Chat'],
      says: /sandbox/,
    },
    {
      name: 'its own frame may not run scripts',
      snippets: [
        atFoot(
          'Booking',
          '<iframe src="https://slotwell.example/days" title="Days" sandbox="allow-forms"></iframe>',
        ),
      ],
      check: 'scriptless-frame',
      about: ['Booking'],
    },
    {
      name: 'it is fetched without encryption',
      snippets: [atFoot('Chat', CHAT.replace('https', 'http'))],
      check: 'insecure-address',
      about: ['Chat'],
    },
  ],
  clean: [
    clean('the host is on the list', 'script-src https://parlanook.example', CHAT),
    clean(
      'Trusted Types are made',
      "require-trusted-types-for 'script'",
      '<script>var p = trustedTypes.createPolicy("news", { createHTML: String }); document.getElementById("news").innerHTML = p.createHTML("<p>Works</p>");</script>',
    ),
    clean(
      'eval is allowed',
      `script-src 'self' ${INLINE} 'unsafe-eval'`,
      '<script>eval("window.ready = 1");</script>',
    ),
    clean(
      'text stays text',
      "require-trusted-types-for 'script'",
      '<script>document.getElementById("news").textContent = "Works";</script>',
    ),
    {
      name: 'its own frame may run scripts',
      snippets: [
        atFoot(
          'Booking',
          '<iframe src="https://slotwell.example/days" title="Days" sandbox="allow-scripts allow-forms"></iframe>',
        ),
      ],
    },
    { name: 'nothing is known of a policy', snippets: [inHead('Chat', LOADER)] },
  ],
};
