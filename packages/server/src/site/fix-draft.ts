import { difference, type OpenFinding, type UnwordedFinding } from '@pragmatica/core';
import { errorAt } from '../errors.js';
import { deferMessages } from '../language/speech.js';
import { saveDraft } from '../storage/draft.js';
import { changeWords } from './change-words.js';
import { codeChanges } from './code-changes.js';
import { audit } from '../storage/trail.js';
import { withSiteLock } from './site-lock.js';
import type { Acting, SiteTools } from './use-case.js';
import { SITE_TEXTS } from '../texts/site.js';
import { say } from '../texts/say.js';

export interface FixInput {
  readonly findings?: readonly string[] | undefined;
  readonly preview: boolean;
}

/** What was fixed in a draft, or would be. */
export interface FixDraftResult {
  readonly fixed: readonly UnwordedFinding[];
  /** In sentences. */
  readonly changes: string[];
  readonly code: ReturnType<typeof codeChanges>;
  readonly left: readonly OpenFinding<UnwordedFinding>[];
}

/** Fixes findings in a draft, those that are named or all that can safely be fixed. @throws ServiceError 404, 422 */
export async function fixDraft(
  { checks, sets }: SiteTools,
  key: string,
  body: FixInput,
  { store, actor }: Acting,
): Promise<FixDraftResult> {
  const knowledge = await checks.prepare(store, key);
  return withSiteLock(store, key, async (transaction, site) => {
    const { snapshot: before } = await sets.draft(transaction, site);
    // What somebody has accepted is fixed only when it is asked for by name.
    const accepted = (await checks.applyWaivers(transaction, site, before)).waived.map(({ id }) => id);
    const { fixed, snapshot } = await deferMessages(() =>
      checks.readers.run('fixAll', {
        snapshot: before,
        known: { ...knowledge, now: Date.now() },
        choice: { wanted: body.findings, accepted },
      }),
    );
    const left = (await checks.applyWaivers(transaction, site, snapshot)).open;
    if (body.findings) assertAllFixed(body.findings, fixed, await checks.find(before, knowledge));
    const changes = difference(before, snapshot).map((change) => change.message);
    if (!body.preview && fixed.length > 0) {
      await saveDraft(transaction, site, before, snapshot, actor);
      audit(transaction, site, actor, 'fix', () =>
        say(SITE_TEXTS.fixed, { count: fixed.length, changes: changeWords(before, snapshot) }),
      );
      await transaction.flush();
    }
    return { fixed, changes, code: codeChanges(before, snapshot), left: [...left] };
  });
}

/** @throws ServiceError for a finding that is not there, or that only a person can fix */
function assertAllFixed(
  wanted: readonly string[],
  fixed: readonly UnwordedFinding[],
  found: readonly UnwordedFinding[],
): void {
  wanted.forEach((id, index) => {
    if (fixed.some((finding) => finding.id === id)) return;
    const isThere = found.some((finding) => finding.id === id);
    throw errorAt(`/findings/${index}`, isThere ? 'not-fixable' : 'finding-gone', { finding: id });
  });
}
