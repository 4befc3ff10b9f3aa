import { wholeOrigin, type AskedFeature } from '../../facts/index.js';
import { memoizeByText } from '../../memoize/by-text.js';
import { PermissionsPolicy } from '../../policy/index.js';
import { partName } from '../../snapshot/index.js';
import { FEATURE_TEXTS } from '../../texts/features.js';
import { defineCheck } from '../check.js';
import type { CheckedSet } from '../checked-set.js';
import { evidence, subject } from '../evidence.js';
import type { KnownPolicies } from '../knowledge.js';

const FRAME =
  '<iframe src="https://parlanook.example/call" title="Call us" allow="camera; microphone"></iframe>';
const NEAREST = '<script>navigator.geolocation.getCurrentPosition(function (at) { showPier(at); });</script>';
const PAGE =
  '<!DOCTYPE html><html><head><title>Piers</title><script>function showPier(at) { document.title = at; }</script></head><body><p>Piers</p></body></html>';

/** What frames ask for as a matter of form; nobody notices when they do not get it. */
const UNNOTICED: ReadonlySet<string> = new Set([
  ...['accelerometer', 'gyroscope', 'magnetometer', 'picture-in-picture', 'ambient-light-sensor', 'battery'],
  ...['storage-access', 'sync-xhr', 'unload', 'screen-wake-lock', 'browsing-topics', 'attribution-reporting'],
  ...['run-ad-auction', 'join-ad-interest-group', 'shared-storage', 'private-state-token-redemption'],
]);

export const featureNotAllowed = defineCheck({
  id: 'feature-not-allowed',
  area: 'activation',
  severity: 'warning',
  title: 'The page does not allow the camera, the location or the like',
  why: 'A site can switch off parts of the browser with a header: the camera, the visitor’s location, payment, full screen. Code that needs one of them then fails, and the visitor is not even asked.',
  asks: ['survey'],
  messages: {
    page: {
      title: '{part} asks for {what}, which {page} does not allow',
      advice:
        'The page’s Permissions-Policy header rules out “{feature}”{pages, plural, =1 {} other { (# pages in all)}}. Write {entry} where the site sets that header, or exclude these pages.',
    },
    frame: {
      title: 'The frame in {part} asks for {what}, which {page} does not allow',
      advice:
        'The page’s Permissions-Policy header does not give “{feature}” to {host}{pages, plural, =1 {} other { (# pages in all)}}. Write {entry} where the site sets that header, or exclude these pages.',
    },
  },
  roles: { asks: 'asks for it' },
  isFixable: false,
  wrong: [{ name: 'Nearest pier', parts: [{ placement: 'body-end', code: NEAREST }] }],
  right: [
    {
      name: 'Call us',
      parts: [{ placement: 'body-end', code: FRAME.replace('camera; microphone', 'fullscreen') }],
    },
  ],
  pages: { '/piers': PAGE },
  headers: { 'permissions-policy': 'geolocation=(), camera=(self)' },
  *run(set) {
    for (const known of set.policies) if (known.permissionsPolicy !== undefined) yield* refused(set, known);
  },
});

const policyOf = memoizeByText(500, (header) => new PermissionsPolicy(header));

function* refused(set: CheckedSet, { permissionsPolicy, address, paths }: KnownPolicies) {
  const policy = policyOf(permissionsPolicy!);
  const own = new URL(address).origin;
  for (const part of set.running) {
    if (part.facts.features.length === 0) continue;
    const on = paths.filter((path) => set.runsOn(part.snippet, path));
    const [page] = on;
    if (page === undefined) continue;
    const asked = part.facts.features.flatMap((one) => {
      const origin = originOf(one, own);
      return origin === undefined || policy.allows(one.feature, origin, own) ? [] : [{ ...one, origin }];
    });
    for (const { feature, range, frame, origin } of asked) {
      const isFrame = origin !== own;
      const params = {
        ...{ part: partName(part), page, feature, pages: on.length },
        what: FEATURE_TEXTS[feature] ?? `“${feature}”`,
        entry: policy.entry(feature, origin, own),
      };
      const found = {
        about: [page, feature, frame ?? ''].join(' '),
        subjects: [subject(part)],
        evidence: [evidence(part, range, 'asks' as const)],
      };
      if (isFrame)
        yield { ...found, message: 'frame' as const, params: { ...params, host: new URL(origin).host } };
      else yield { ...found, message: 'page' as const, params };
    }
  }
}

/** Who would have it; undefined where that is not known, or nobody would notice. */
function originOf({ feature, frame }: AskedFeature, own: string): string | undefined {
  if (frame === undefined) return own;
  const origin = wholeOrigin(frame, own);
  return origin !== own && UNNOTICED.has(feature) ? undefined : origin;
}
