import type { ApiClient, SnippetInput } from '@pragmatica/contract';

interface Install {
  readonly recipe: string;
  /** Values for the recipe's fields, by name. */
  readonly values: Readonly<Record<string, string>>;
}

/** Which of the ferries' snippets are installs of recipes. The others were pasted by hand. */
const INSTALLS: Readonly<Record<string, Install>> = {
  'cookie-question': { recipe: 'biscuitkeel-question', values: { consent_site: 'skerrywick' } },
  // The site has given this field its values.
  'tag-container': { recipe: 'crateline-container', values: {} },
  'visit-counter': { recipe: 'tallymast-counter', values: { counter_account: 'TM-1887' } },
  'booking-pixel': {
    recipe: 'glintpixel',
    values: { pixel_account: 'GP-4417', pixel_event: 'booking-seen' },
  },
  'harbour-chat': {
    recipe: 'parlanook-chat',
    values: { chat_room: 'harbour-office', chat_greeting: 'Ask the harbour office' },
  },
};

/** Adds a snippet as an install of its recipe. Returns false where it has none. */
export async function installSnippet(
  client: ApiClient,
  site: string,
  snippet: SnippetInput,
): Promise<boolean> {
  const { key, name, parts: _, ...about } = snippet;
  const install = INSTALLS[key ?? ''];
  if (!install || key === undefined) return false;
  const values = Object.entries(install.values).map(([field, value]) => ({ name: field, value }));
  await apply(client, install.recipe, { key, name, site, values });
  const params = { site, snippet: key };
  const { etag } = await client.call('showSnippet', { params });
  await client.call('editSnippet', { params, ifMatch: etag, body: about });
  return true;
}

/** Applies a recipe to one site. @throws Error where that does not work */
export async function apply(
  client: ApiClient,
  recipe: string,
  {
    site,
    values,
    ...named
  }: {
    readonly key?: string;
    readonly name?: string;
    readonly site: string;
    readonly values: { readonly name: string; readonly value: string }[];
  },
): Promise<void> {
  const { data } = await client.call('applyRecipe', {
    params: { recipe },
    body: { ...named, targets: [{ site, values }] },
  });
  const [result] = data.items;
  if (!result?.isDone) throw new Error(result?.message ?? `Nothing became of ${recipe}.`);
}

/** Ticks off everything on a site's checklist but some steps, named by what is wrong without them. */
export async function tickAll(client: ApiClient, site: string, but: readonly string[]): Promise<void> {
  const { items } = (await client.call('showChecklist', { params: { site } })).data;
  for (const { recipe, step, host, open } of items)
    if (!but.includes(open))
      await client.call('tickStep', { params: { site }, body: { recipe, step, host, done: true } });
}
