import { listAllRecipes, listAllSites, type ApiClient } from '@pragmatica/contract';
import { CHECKS } from '@pragmatica/core';
import { CliError, EXIT } from '../errors.js';
import { COMMON } from '../texts/common.js';
import { COMPLETION } from '../texts/completion.js';
import type { Candidate } from './words.js';

/** Longer than this nobody waits for a word. */
const PATIENCE_MS = 2_000;

type Lookup = (client: ApiClient, site: () => Promise<string>) => Promise<Candidate[]>;

const sites: Lookup = async (client) =>
  (await listAllSites(client)).map(({ key, name }) => ({ word: key, about: name }));

const snippets: Lookup = async (client, site) => {
  const { data } = await client.call('listSnippets', { params: { site: await site() } });
  return data.items.map(({ key, name }) => ({ word: key, about: name }));
};

const recipes: Lookup = async (client) =>
  (await listAllRecipes(client)).map(({ recipe: { key, name } }) => ({ word: key, about: name }));

const findings: Lookup = async (client, site) => {
  const { data } = await client.call('listFindings', { params: { site: await site() }, query: {} });
  return data.items.map(({ id, title }) => ({ word: id, about: title }));
};

const pages: Lookup = async (client, site) => {
  const { data } = await client.call('listPages', { params: { site: await site() }, query: {} });
  return data.paths.map((path) => ({ word: path, about: '' }));
};

const checks: Lookup = async () => CHECKS.map(({ id, title }) => ({ word: id, about: title }));

const sets: Lookup = async () =>
  (['draft', 'live', 'staging'] as const).map((word) => ({ word, about: COMPLETION[word] }));

/** What is known of a kind of argument, by its name in the help text. One more kind is one more line. */
const LOOKUPS: Readonly<Record<string, Lookup>> = {
  site: sites,
  snippet: snippets,
  snippets,
  part: snippets,
  recipe: recipes,
  recipes,
  finding: findings,
  findings,
  path: pages,
  paths: pages,
  pattern: pages,
  patterns: pages,
  check: checks,
  set: sets,
};

/**
 * Words of a kind; none where nobody knows any, where the service does not answer soon, or where nobody is signed in: whoever
 * types is not to be disturbed.
 *
 * @param named - the site that is named on the line
 */
export async function knownWords(
  kind: string | undefined,
  client: ApiClient,
  named: string | undefined,
): Promise<Candidate[]> {
  const lookup = kind === undefined ? undefined : LOOKUPS[kind];
  if (!lookup) return [];
  const site = async (): Promise<string> => {
    if (named !== undefined) return named;
    const all = await listAllSites(client);
    // Of several sites nobody knows which is meant.
    if (all.length !== 1) throw new CliError(COMMON.thereNoSite, EXIT.usage);
    return all[0]!.key;
  };
  const late = new Promise<Candidate[]>((resolve) => setTimeout(() => resolve([]), PATIENCE_MS).unref());
  return Promise.race([lookup(client, site).catch(() => []), late]);
}
