import {
  RecipeBook,
  applyFix,
  runChecks,
  snippetsOf,
  withSnippet,
  type Finding,
  type SnippetState,
} from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useMemo } from 'react';
import { checklistQuery, draftQuery, pagesQuery, siteQuery, skeletonsQuery } from '../../api/queries';
import { factsCache } from '../../api/facts';
import { allRecipesQuery } from '../../api/recipe-lists';
import { toValue, type PartValue, type SnippetValue } from './snippet-value';
import { SNIPPET } from '../../texts/snippet';

/** Hours are told to the minute: what was found out about them holds from one keystroke to the next. */
const MINUTE_MS = 60_000;

export interface SnippetFindings {
  readonly findings: readonly Finding[];
  /** The parts as its fix would have them; undefined for one that also changes other snippets. */
  fixAll(finding: Finding): PartValue[] | undefined;
}

/**
 * What the checks would find about a snippet as it stands in the form, together with the rest of the draft.
 *
 * @returns undefined while the draft is being fetched
 */
export function useSnippetFindings(
  site: string,
  key: string,
  state: SnippetState,
  typed: SnippetValue,
): SnippetFindings | undefined {
  const value = useDeferredValue(typed);
  const snapshot = useQuery(draftQuery(site)).data?.data.snapshot;
  const paths = useQuery(pagesQuery(site)).data?.paths;
  const hosts = useQuery(siteQuery(site)).data?.data.hosts;
  const skeletons = useQuery(skeletonsQuery(site)).data;
  const recipes = useQuery(allRecipesQuery).data;
  const steps = useQuery(checklistQuery(site)).data;
  const book = useMemo(() => new RecipeBook(recipes), [recipes]);
  return useMemo(() => {
    if (!snapshot) return undefined;
    const parts = value.parts.filter(({ code }) => code.trim() !== '');
    if (parts.length === 0) return { findings: [], fixAll: () => undefined };
    const { name, provider, purpose, note, pages, limits, needs } = value;
    const recipe = snapshot.snippets.find((snippet) => snippet.key === key)?.recipe;
    const set = withSnippet(snapshot, {
      ...(recipe ? { recipe } : {}),
      ...{ key, name: name || SNIPPET.snippet, provider, purpose, note, pages, limits, needs },
      // Somebody who works on a snippet that is off wants to know how it would be.
      state: state === 'off' ? 'on' : state,
      parts: value.parts,
    });
    const found = runChecks(set, {
      memory: factsCache,
      paths: paths ?? [],
      skeletons: skeletons ?? [],
      hosts: hosts ?? [],
      book,
      ticks: (steps ?? []).flatMap(({ recipe, step, host, tick }) =>
        tick ? [{ recipe, step, host, ...tick }] : [],
      ),
      now: Math.floor(Date.now() / MINUTE_MS) * MINUTE_MS,
    });
    return {
      findings: found.filter(({ subjects }) => subjects.some(({ snippet }) => snippet === key)),
      fixAll: ({ fix }) => {
        if (!fix?.changes.flatMap(snippetsOf).every((snippet) => snippet === key)) return undefined;
        const fixed = applyFix(set, fix).snippets.find((snippet) => snippet.key === key)!;
        return fixed.state === 'off' ? undefined : toValue(fixed).parts;
      },
    };
  }, [snapshot, paths, skeletons, hosts, book, steps, key, state, value]);
}
