import { wholeOrigin, type Load } from '../../facts/index.js';
import { embedderPolicy, type EmbedderPolicy } from '../../policy/index.js';
import { partName } from '../../snapshot/index.js';
import { defineCheck } from '../check.js';
import type { CheckedSet } from '../checked-set.js';
import { evidence, subject } from '../evidence.js';
import type { KnownPolicies } from '../knowledge.js';

const CHAT = '<script async src="https://parlanook.example/chat.js"></script>';
const PAGE = '<!DOCTYPE html><html><head><title>Fares</title></head><body><p>Fares</p></body></html>';

export const isolatedPage = defineCheck({
  id: 'isolated-page',
  area: 'activation',
  severity: 'advice',
  title: 'An isolated page loads only what other hosts allow',
  why: 'A page can demand that anything from elsewhere carries permission to be used there. Most providers do not send it, and browsers then block their files and frames. The code does not tell whether this provider does.',
  asks: ['survey'],
  messages: {
    file: {
      title: '{part} runs on {page} only if {host} allows it',
      advice:
        'The page is isolated from other hosts (Cross-Origin-Embedder-Policy: {policy}){pages, plural, =1 {} other { (# pages in all)}}. Ask the provider whether {host} sends “Cross-Origin-Resource-Policy: cross-origin”. If not, exclude these pages, or have the site send “credentialless”.',
    },
    frame: {
      title: 'The frame in {part} appears on {page} only if {host} allows it',
      advice:
        'The page is isolated from other hosts (Cross-Origin-Embedder-Policy: {policy}){pages, plural, =1 {} other { (# pages in all)}}. Ask the provider whether its page sends this header too. If not, exclude these pages.',
    },
  },
  roles: { loaded: 'comes from another host' },
  isFixable: false,
  wrong: [{ name: 'Chat', parts: [{ placement: 'body-end', code: CHAT }] }],
  right: [
    { name: 'Chat', parts: [{ placement: 'body-end', code: CHAT.replace('async', 'async crossorigin') }] },
  ],
  pages: { '/fares': PAGE },
  headers: { 'cross-origin-embedder-policy': 'require-corp' },
  *run(set) {
    for (const known of set.policies) {
      const policy = embedderPolicy(known.embedderPolicy ?? '');
      if (policy) yield* onItsWord(set, known, policy);
    }
  },
});

function* onItsWord(set: CheckedSet, { address, paths }: KnownPolicies, policy: EmbedderPolicy) {
  const own = new URL(address).origin;
  for (const part of set.running) {
    const load = part.facts.loads.find((one) => needsWord(one, policy, own));
    if (!load) continue;
    const on = paths.filter((path) => set.runsOn(part.snippet, path));
    const [page] = on;
    if (page === undefined) continue;
    const host = new URL(wholeOrigin(load.address, own)!).host;
    yield {
      about: page,
      message: load.kind === 'frame' ? ('frame' as const) : ('file' as const),
      params: { part: partName(part), page, host, policy, pages: on.length },
      subjects: [subject(part)],
      evidence: [evidence(part, load.range, 'loaded' as const)],
    };
  }
}

/**
 * Whether the browser lets it in only where its host says so: frames always, scripts and styles under `require-corp` where they
 * are not fetched by CORS (Fetch Standard 3.7, "cross-origin resource policy check"; HTML Standard 7.1.4).
 */
function needsWord(
  { address, kind, mode, noScript, fetchedAs }: Load,
  policy: EmbedderPolicy,
  own: string,
): boolean {
  const origin = wholeOrigin(address, own);
  if (noScript || origin === undefined || origin === own) return false;
  if (kind === 'frame') return fetchedAs !== 'credentialless';
  // A module is always fetched by CORS.
  const isPlain = fetchedAs !== 'cors' && mode !== 'module';
  return policy === 'require-corp' && isPlain && (kind === 'script' || kind === 'style');
}
