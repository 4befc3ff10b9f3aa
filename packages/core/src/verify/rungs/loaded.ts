import { normalAddress, type Load } from '../../facts/index.js';
import { say } from '../../texts/say.js';
import { VISIT_TEXTS as T } from '../../texts/visit.js';
import type { SeenRequest } from '../../visit/index.js';
import { isOf } from '../attribution.js';
import { heldUp } from './held-up.js';
import { fileOf, isHarmless, isWell, requestCause } from './request-causes.js';
import type { RungCase, RungFound } from './types.js';

/** What a part needs before it can do anything; pictures and calls are reports. */
const NEEDED: readonly SeenRequest['kind'][] = ['script', 'style', 'document'];

/** Requests of a snippet for files, those that its own code names first. */
export function filesOf({
  snippet,
  parts,
  load,
  attribution,
}: RungCase): readonly { readonly request: SeenRequest; readonly isOwn: boolean }[] {
  const named = namedLoads(parts.flatMap(({ facts }) => facts.loads));
  return load.requests
    .filter((request) => NEEDED.includes(request.kind) && isOf(attribution.ofRequest(request), snippet))
    .map((request) => {
      const owner = attribution.ofRequest(request);
      const isDirect = owner.kind === 'snippet' && owner.via.length === 0;
      return {
        request,
        isOwn:
          isDirect &&
          (named.size === 0 || named.has(plain(request.url)) || request.initiator.by === 'parser'),
      };
    })
    .sort((a, b) => Number(b.isOwn) - Number(a.isOwn));
}

/** The files that a part's code names were all answered well. */
export function judgeLoaded(rung: RungCase): RungFound {
  const files = filesOf(rung);
  const bad = files.filter(({ request }) => !isWell(request) && !isHarmless(request));
  const worst = bad[0];
  if (worst) return { state: 'failed', isOwn: worst.isOwn, cause: requestCause(worst.request, rung.load) };
  if (files.length > 0) return { state: 'reached', message: say(T.loadedAll, { count: files.length }) };
  // A tag that the browser never looked at: it stands where tags are not read, or the page went before.
  const tag = rung.parts.flatMap(({ facts }) => facts.loads).find(isNeededTag);
  if (!tag) return { state: 'none', message: T.loadsNothing };
  // One file that two parts name is asked for once, for the first of them.
  const asked = rung.load.requests.find(({ url }) => plain(url) === plain(tag.address));
  if (asked && isWell(asked)) return { state: 'reached', message: say(T.loadedAll, { count: 1 }) };
  if (asked) return { state: 'failed', isOwn: true, cause: requestCause(asked, rung.load) };
  const blocked = heldUp(rung);
  if (blocked) return { state: 'failed', isOwn: true, cause: blocked };
  return {
    state: 'failed',
    isOwn: true,
    cause: {
      id: 'never-asked',
      message: say(T.neverAsked, { file: fileOf(tag.address) }),
      advice: T.didNotRunAdvice,
      who: 'you',
      evidence: [tag.address],
    },
  };
}

function isNeededTag({ by, kind, noScript, when }: Load): boolean {
  return (
    by === 'tag' &&
    !noScript &&
    when !== 'later' &&
    (kind === 'script' || kind === 'style' || kind === 'frame')
  );
}

function namedLoads(loads: readonly Load[]): ReadonlySet<string> {
  return new Set(loads.filter(({ noScript }) => !noScript).map(({ address }) => plain(address)));
}

/** An address as it is compared: without scheme, query and what does not change a file. */
function plain(address: string): string {
  return normalAddress(address).split('?', 1)[0]!;
}
