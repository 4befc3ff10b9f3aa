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
const under = (header: string, value: string, name: string, code: string): CleanSite => ({
  name,
  snippets: [atFoot('Chat', code)],
  site: { pages: { '/': page('Home') }, headers: { [header]: value } },
});
const featured = (name: string, value: string, code: string, says: RegExp): Cause => ({
  ...under('permissions-policy', value, name, code),
  check: 'feature-not-allowed',
  about: ['Chat'],
  says,
});
const isolated = (name: string, value: string, code: string, says: RegExp): Cause => ({
  ...under('cross-origin-embedder-policy', value, name, code),
  check: 'isolated-page',
  about: ['Chat'],
  says,
});
const frameOf = (more: string): string =>
  `<iframe src="https://parlanook.example/call" title="Call us" ${more}></iframe>`;
const LOCATION =
  '<script>if (navigator.geolocation) navigator.geolocation.getCurrentPosition(function (at) { document.title = at.coords.latitude; });</script>';
const CALL =
  '<script>document.addEventListener("click", function () { navigator.mediaDevices.getUserMedia({ audio: true, video: false }).then(function () {}); });</script>';
const MADE_FRAME =
  '<script>var f = document.createElement("iframe"); f.src = "https://parlanook.example/call"; f.title = "Call us"; f.allow = "camera"; document.body.appendChild(f);</script>';
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
        headers: { 'content-security-policy': 'sandbox allow-forms' },
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
    featured(
      'the location is switched off',
      'geolocation=()',
      LOCATION,
      /visitor’s location.*geolocation=\(self\)/s,
    ),
    featured(
      'the location is for another host only',
      'geolocation=("https://maps.example")',
      LOCATION,
      /geolocation=\(self "https:\/\/maps\.example"\)/,
    ),
    featured('the microphone is asked for on a click', 'camera=(), microphone=()', CALL, /microphone/),
    featured(
      'a frame is to have the camera',
      'camera=(self)',
      frameOf('allow="camera; microphone"'),
      /camera=\(self "https:\/\/parlanook\.example"\)/,
    ),
    featured(
      'a frame is to have what nobody may',
      'microphone=()',
      frameOf('allow="microphone *"'),
      /microphone=\(self "https:\/\/parlanook\.example"\)/,
    ),
    featured(
      'a frame may not fill the screen',
      'fullscreen=(self)',
      frameOf('allowfullscreen'),
      /full screen/,
    ),
    featured('a script makes the frame', 'camera=()', MADE_FRAME, /camera/),
    featured(
      'the payment window is switched off',
      'payment=()',
      '<script>window.pay = function (methods, details) { return new PaymentRequest(methods, details).show(); };</script>',
      /payment/,
    ),
    featured(
      'what is sent when the page is closed',
      'unload=()',
      '<script>addEventListener("unload", function () { navigator.sendBeacon("https://in.parlanook.example/left"); });</script>',
      /closed/,
    ),
    isolated('the page is isolated', 'require-corp', CHAT, /parlanook\.example/),
    isolated(
      'the page is isolated, and a script makes the loader',
      'require-corp',
      LOADER,
      /parlanook\.example/,
    ),
    isolated('the page is isolated, with reports', 'require-corp; report-to="coep"', CHAT, /require-corp/),
    isolated('a frame on an isolated page', 'credentialless', frameOf(''), /frame/),
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
    under('permissions-policy', 'geolocation=(self)', 'the page itself may know the location', LOCATION),
    under('permissions-policy', 'geolocation=*', 'everybody may know the location', LOCATION),
    under('permissions-policy', 'camera=()', 'something else is switched off', LOCATION),
    under('permissions-policy', 'geolocation none', 'a header that cannot be read', LOCATION),
    under('permissions-policy-report-only', 'geolocation=()', 'a header that only reports', LOCATION),
    under(
      'permissions-policy',
      'camera=(self "https://parlanook.example")',
      'the frame’s host is on the list',
      frameOf('allow="camera"'),
    ),
    under(
      'permissions-policy',
      'camera=(self)',
      'the frame does not ask for it',
      frameOf('allow="camera \'none\'; fullscreen"'),
    ),
    under(
      'permissions-policy',
      'accelerometer=(), gyroscope=(), browsing-topics=()',
      'a frame lists what nobody misses',
      frameOf('allow="accelerometer; gyroscope; picture-in-picture"'),
    ),
    under(
      'permissions-policy',
      'microphone=()',
      'only the camera is asked for',
      CALL.replace('audio: true, video: false', 'video: true'),
    ),
    under(
      'cross-origin-embedder-policy',
      'require-corp',
      'what the isolated page loads by CORS',
      CHAT.replace('async', 'async crossorigin'),
    ),
    under(
      'cross-origin-embedder-policy',
      'require-corp',
      'a module on an isolated page',
      CHAT.replace('async', 'type="module"'),
    ),
    under(
      'cross-origin-embedder-policy',
      'require-corp',
      'a file of the site on an isolated page',
      CHAT.replace('https://parlanook.example', ''),
    ),
    under('cross-origin-embedder-policy', 'credentialless', 'a script that is fetched without cookies', CHAT),
    under(
      'cross-origin-embedder-policy',
      'credentialless',
      'a frame without cookies',
      frameOf('credentialless'),
    ),
    under('cross-origin-embedder-policy', 'unsafe-none', 'a page that is not isolated', CHAT),
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
