import {
  FactsMemory,
  difference,
  factWords,
  mend,
  readCode,
  runChecks,
  suggestParts,
  type Finding,
} from '@pragmatica/core';
import { LRUCache } from 'lru-cache';
import type { HandlersOf } from '../http/context.js';
import { knownPages } from '../pages/known-pages.js';
import { ProblemError } from '../http/problems.js';
import { changeDraft } from '../site/change-draft.js';
import { audit, changeSite, findSite } from '../site/change-site.js';
import { resolveSet } from '../site/sets.js';
import { loadDraft, toSnapshot } from '../storage/draft.js';
import { HostEntity, type Host } from '../storage/entities/index.js';

const PAGES_KEPT_MS = 60_000;

export function findingHandlers(): HandlersOf<'readCode' | 'listFindings' | 'fixFindings'> {
  /** What was read before, of all sites: an edit changes one snippet, and the others are as they were. */
  const memory = new FactsMemory();
  /** Asking a site for its pages takes longer than all checks; the list changes seldom. */
  const pages = new LRUCache<number, readonly string[]>({ max: 1_000, ttl: PAGES_KEPT_MS });
  const pathsOf = async (host: Host | undefined): Promise<readonly string[]> => {
    const kept = host && pages.get(host.id);
    if (kept) return kept;
    const { paths } = await knownPages(host);
    if (host) pages.set(host.id, paths);
    return paths;
  };
  return {
    readCode({ body: { code, statement } }) {
      const facts = readCode(code);
      return Promise.resolve({
        data: { facts, words: factWords(facts), parts: suggestParts(code, statement) },
      });
    },

    async listFindings({ params, query }, { em }) {
      const site = await findSite(em, params.site);
      const { snapshot } = await resolveSet(em, site, query.of);
      const host = await em.findOne(HostEntity, { site }, { orderBy: { position: 'asc' } });
      const paths = await pathsOf(host ?? undefined);
      const all = runChecks(snapshot, { memory, paths });
      return { data: { items: all.filter((finding) => isWanted(finding, query)), counts: countsOf(all) } };
    },

    async fixFindings({ params, body }, { em, actor }) {
      const host = await em.findOne(
        HostEntity,
        { site: await findSite(em, params.site) },
        { orderBy: { position: 'asc' } },
      );
      const paths = await pathsOf(host ?? undefined);
      return changeSite(em, params.site, async (transaction, site) => {
        const before = toSnapshot(site, await loadDraft(transaction, site));
        const { mended, rounds, left, snapshot } = mend(
          before,
          { memory, paths },
          body.findings && new Set(body.findings),
        );
        assertAllMended(body.findings ?? [], mended, left);
        const changes = difference(before, snapshot).map((change) => change.message);
        if (!body.preview && mended.length > 0) {
          for (const round of rounds) await changeDraft(transaction, site, round, actor);
          audit(transaction, site, actor, 'fix', `Mended ${mended.length} findings. ${changes.join(' ')}`);
          await transaction.flush();
        }
        return { data: { mended, changes, left } };
      });
    },
  };
}

/** @throws ProblemError for a finding that is not there, or that only a person can mend */
function assertAllMended(
  wanted: readonly string[],
  mended: readonly Finding[],
  left: readonly Finding[],
): void {
  wanted.forEach((id, index) => {
    if (mended.some((finding) => finding.id === id)) return;
    const isThere = left.some((finding) => finding.id === id);
    const detail = isThere
      ? `The finding "${id}" cannot be mended by itself: its advice says what to do.`
      : `There is no finding "${id}" in the draft; perhaps it was mended meanwhile.`;
    throw new ProblemError(isThere ? 'invalid-input' : 'not-found', detail, {
      errors: [{ pointer: `/findings/${index}`, detail }],
    });
  });
}

interface Wanted {
  readonly severity?: string | undefined;
  readonly check?: string | undefined;
  readonly snippet?: string | undefined;
}

function isWanted(finding: Finding, { severity, check, snippet }: Wanted): boolean {
  return (
    (severity === undefined || finding.severity === severity) &&
    (check === undefined || finding.check === check) &&
    (snippet === undefined || finding.subjects.some((subject) => subject.snippet === snippet))
  );
}

function countsOf(findings: readonly Finding[]): { error: number; warning: number; advice: number } {
  const counts = { error: 0, warning: 0, advice: 0 };
  for (const { severity } of findings) counts[severity]++;
  return counts;
}
