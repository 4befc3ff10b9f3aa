import { planPage } from '../plan/index.js';
import { pageAddress, type Device, type EnvironmentName } from '../reach/index.js';
import type { Snapshot } from '../snapshot/index.js';
import { NEEDED_TEXTS as T } from '../texts/needed-visits.js';
import { say } from '../texts/say.js';
import { stepsFor, type NeededVisit } from './needed-visits.js';

/** A visit to a page without some of the snippets. */
export interface WeighingVisit extends NeededVisit {
  /** Keys of the snippets that are taken out of the page. */
  readonly without: readonly string[];
}

export interface WeighingChoice {
  readonly host: string;
  readonly environment: EnvironmentName;
  readonly path: string;
  readonly device: Device;
  /** Milliseconds since 1970. */
  readonly now: number;
}

/** Pages with more are weighed as a whole: nobody would wait for a visit for each. */
const MOST_SNIPPETS = 30;

/**
 * The visits that tell what each snippet costs on a page: with all of them and without any, twice each, and once without each
 * that runs there. All by somebody who has agreed to everything and stays until everything has come, so that they differ by
 * nothing but the snippets.
 */
export function weighingVisits(
  snapshot: Snapshot,
  { host, environment, path, device, now }: WeighingChoice,
): readonly WeighingVisit[] {
  const consent = snapshot.site.consent?.categories.map(({ key }) => key) ?? [];
  const page = pageAddress(path, host);
  const { parts } = planPage(snapshot, { page, environment, device, at: now, consent });
  const keys = new Set(parts.map(({ snippet }) => snippet));
  const running = snapshot.snippets.filter(({ key }) => keys.has(key));
  const script = {
    device,
    hasAgreed: true,
    steps: [{ do: 'open', path } as const, ...stepsFor(running.map(({ limits }) => limits?.visitor ?? {}))],
  };
  const on = device;
  const full = { script, title: say(T.weighAll, { on }), because: T.weighAllWhy, without: [] };
  const bare = {
    ...{ script, title: say(T.weighBare, { on }), because: T.weighBareWhy },
    without: snapshot.snippets.map(({ key }) => key),
  };
  // With one snippet, the page without any is the page without it.
  const single = running.length > 1 && running.length <= MOST_SNIPPETS ? running : [];
  return [
    ...[full, bare],
    ...single.map(({ key, name }) => ({
      script,
      title: say(T.weighWithout, { name, on }),
      because: say(T.weighWithoutWhy, { name }),
      without: [key],
    })),
    ...[full, bare],
  ];
}
