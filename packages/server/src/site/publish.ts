import type { Store } from '../storage/store.js';
import type { Environment, FieldError, ForcedRelease } from '@pragmatica/contract';
import {
  plainChanges,
  snapshotDigest,
  wordFinding,
  type UnwordedFinding,
  type Snapshot,
  type UncontainedPart,
} from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { speakAsInstalled } from '../language/speech.js';
import { fieldError } from '../texts/field-errors.js';
import { pointTo, pointersOf } from '../storage/pointers.js';
import type { Pointer, Release, Site } from '../storage/rows.js';
import { addRelease } from '../storage/releases.js';
import { audit, notifyGateways } from '../storage/trail.js';
import { SITE_TEXTS } from '../texts/site.js';
import { say } from '../texts/say.js';

export interface PublishInput {
  readonly message: string;
  readonly environments: readonly Environment[];
  readonly actor: string;
  /** The parts that are not contained. */
  readonly uncontained: readonly UncontainedPart[];
  /** Why to publish in spite of errors. */
  readonly force?: string | undefined;
}

/**
 * Makes a release of a draft and points environments at it. Called inside the transaction that locked the site: either
 * all of it happens or nothing.
 *
 * @param errors - what the checks find wrong in it and nobody has accepted
 * @throws ServiceError when there are errors and no reason to publish all the same, when a part is not contained, or when
 *   all environments serve just this set
 */
export async function publishDraft(
  store: Store,
  site: Site,
  snapshot: Snapshot,
  errors: readonly UnwordedFinding[],
  input: PublishInput,
): Promise<Release> {
  assertContained(snapshot, input.uncontained);
  const forced = permit(snapshot, errors, input.force);
  const digest = snapshotDigest(snapshot);
  const pointers = await pointersOf(store, site);
  const before = servedNow(pointers, input.environments);
  const served = input.environments.map(
    (environment) => pointers.find((pointer) => pointer.environment === environment)?.release,
  );
  if (served.every((release) => release?.digest === digest)) {
    throw new ServiceError('served-already', {
      environments: input.environments,
      count: input.environments.length,
      release: served[0]!.number,
    });
  }
  const release = await addRelease(
    store,
    site,
    {
      message: input.message,
      author: input.actor,
      digest,
      forced,
      snippetsOn: snapshot.snippets.filter((snippet) => snippet.state === 'on').length,
    },
    snapshot,
  );
  for (const environment of input.environments) await pointTo(store, site, environment, release, input.actor);
  audit(
    store,
    site,
    input.actor,
    'publish',
    () =>
      say(forced ? SITE_TEXTS.publishedForced : SITE_TEXTS.published, {
        number: release.number,
        environments: input.environments,
        message: input.message,
        errors: forced?.findings.length ?? 0,
        reason: forced?.reason ?? '',
      }),
    plainChanges(
      'environment',
      before,
      Object.fromEntries(input.environments.map((one) => [one, { release: release.number }])),
    ),
  );
  await store.flush();
  await notifyGateways(store, site);
  return release;
}

/**
 * What is kept of errors that somebody publishes with.
 *
 * @throws ServiceError when there are errors and no reason
 */
function permit(
  snapshot: Snapshot,
  errors: readonly UnwordedFinding[],
  force?: string,
): ForcedRelease | null {
  if (errors.length === 0) return null;
  if (force === undefined) {
    const { title } = wordFinding(errors[0]!);
    const params = { count: errors.length, title, more: errors.length - 1 };
    throw new ServiceError('errors-found', params, { errors: fieldsOf(snapshot, errors) });
  }
  const findings = speakAsInstalled(() =>
    errors.map((finding) => ({ id: finding.id, check: finding.check, title: wordFinding(finding).title })),
  );
  return { reason: force, findings };
}

/** Whatever anybody accepts or forces: no code may change a visitor's page around it (design, 4.1). */
export function assertContained(snapshot: Snapshot, parts: readonly UncontainedPart[]): void {
  if (parts.length === 0) return;
  const names = [...new Set(parts.map((part) => say(SITE_TEXTS.quotedName, { name: part.name })))];
  throw new ServiceError(
    'not-contained',
    { names, problem: parts[0]!.message },
    {
      errors: parts.map(({ name, snippet, index, message: problem }) => {
        const at = snapshot.snippets.findIndex(({ key }) => key === snippet);
        return fieldError(`/snippets/${at}/parts/${index}/code`, 'part-not-contained', { name, problem });
      }),
    },
  );
}

/** Each finding at the snippet or the part that it is about first; at all of them, where it is about the site itself. */
function fieldsOf(snapshot: Snapshot, findings: readonly UnwordedFinding[]): FieldError[] {
  return findings.map((finding) => {
    const { id, title, advice, subjects } = wordFinding(finding);
    const said = { title, advice, finding: id };
    const [first] = subjects;
    if (!first) return fieldError('/snippets', 'finding-there', said);
    const { snippet, part } = first;
    const index = snapshot.snippets.findIndex(({ key }) => key === snippet);
    const place = part === undefined ? '' : `/parts/${Number(part.split('/')[1]) - 1}/code`;
    return fieldError(`/snippets/${index}${place}`, 'finding-there', said);
  });
}

/** The releases that environments serve, as the trail keeps it. */
function servedNow(
  pointers: readonly Pointer[],
  environments: readonly Environment[],
): Record<string, object> {
  const releases = new Map(pointers.map(({ environment, release }) => [environment, release.number]));
  return Object.fromEntries(environments.map((one) => [one, { release: releases.get(one) ?? null }]));
}
