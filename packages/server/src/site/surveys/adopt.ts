import { codeToAdopt, placementFor, type PageRules } from '@pragmatica/core';
import { ServiceError } from '../../errors.js';
import type { Site } from '../../storage/rows.js';
import type { Store } from '../../storage/store.js';
import { markSightings, sightingById } from '../../storage/survey-reads.js';
import type { Survey } from '../../storage/surveys.js';
import { audit } from '../../storage/trail.js';
import { say } from '../../texts/say.js';
import { SURVEY_TEXTS } from '../../texts/survey.js';
import { addSnippet } from '../add-snippet.js';
import { keyOrFromName } from '../key-or-from-name.js';
import { withSiteLock } from '../site-lock.js';
import type { Acting } from '../use-case.js';
import { proposalFor } from './proposal.js';
import type { SiteSurveys } from './site-surveys.js';

export interface AdoptionInput {
  readonly name?: string | undefined;
  readonly key?: string | undefined;
  readonly pages?: PageRules | undefined;
  readonly with: readonly number[];
}

/**
 * Makes a snippet of things in the pages. It is off as long as the copy in the site is there, so nothing runs twice.
 *
 * @throws ServiceError 404, 409 for what was adopted already, or is a snippet's
 */
export async function adoptSighting(
  surveys: SiteSurveys,
  site: Site,
  survey: Survey,
  id: number,
  input: AdoptionInput,
  { store, actor }: Acting,
): Promise<{ snippet: string; words: string }> {
  const ids = [...new Set([id, ...input.with])];
  const chosen = await Promise.all(ids.map((one) => surveys.sighting(store, site, survey, one)));
  const [first] = chosen;
  const taken = chosen.find(({ match, row }) => match !== undefined || row.adopted !== null);
  if (taken)
    throw new ServiceError('sighting-managed', {
      name: taken.row.name,
      snippet: taken.match?.snippet ?? taken.row.adopted!.snippet,
    });
  const name = input.name ?? (first!.row.name || SURVEY_TEXTS.unnamed);
  const key = keyOrFromName(input.key, name);
  const { rules, removal } = await proposalFor(store, survey, first!);
  await withSiteLock(store, site.key, async (transaction, home) => {
    await addSnippet(
      transaction,
      home,
      {
        key,
        name,
        purpose: '',
        provider: first!.row.provider,
        note: '',
        state: 'off',
        pages: input.pages ?? rules,
        parts: chosen.map(({ row, places, states }) => ({
          placement: placementFor(places),
          code: codeToAdopt(row.code, states),
        })),
      },
      actor,
    );
    const mark = { snippet: key, by: actor, at: new Date().toISOString() };
    await markSightings(transaction, home, ids, 'adopted', mark);
    audit(transaction, home, actor, 'sighting.adopt', () => say(SURVEY_TEXTS.adoptedName, { name }));
    await transaction.flush();
  });
  return { snippet: key, words: say(SURVEY_TEXTS.adoptedWords, { name, removal }) };
}

/** Leaves a sighting alone, or tells of it again. @param reason - null for the latter @throws ServiceError 404 */
export async function ignoreSighting(
  key: string,
  id: number,
  reason: string | null,
  { store, actor }: Acting,
): Promise<void> {
  await withSiteLock(store, key, async (transaction, site) => {
    const row = await requireSighting(transaction, site, id);
    const mark = reason === null ? null : { reason, by: actor, at: new Date().toISOString() };
    await markSightings(transaction, site, [id], 'ignored', mark);
    const said = (): string => {
      const name = row.name || SURVEY_TEXTS.unnamed;
      return reason === null
        ? say(SURVEY_TEXTS.heededName, { name })
        : say(SURVEY_TEXTS.ignoredName, { name, reason });
    };
    audit(transaction, site, actor, 'sighting.ignore', said);
    await transaction.flush();
  });
}

async function requireSighting(store: Store, site: Site, id: number) {
  const row = await sightingById(store, site, id);
  if (!row) throw new ServiceError('no-sighting', { id });
  return row;
}
