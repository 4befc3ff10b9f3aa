import { isGroupReference } from '../../reach/index.js';
import type { Snapshot, SnapshotSnippet } from '../../snapshot/index.js';
import { defineCheck } from '../check.js';

const PIXEL = '<script async src="https://glintpixel.example/glint.js?id=GP-4417"></script>';

export const undefinedReach = defineCheck({
  id: 'undefined-reach',
  area: 'activation',
  severity: 'error',
  title: 'The reach names something that the site does not have',
  why: 'A page group that no longer exists has no pages, and visitors never agree to a purpose they are not asked about: the snippet is on and never runs.',
  messages: {
    'no-group': {
      title: '“{snippet}” uses the page group {group}, which does not exist',
      advice: 'Choose another group, list the pages instead, or define the group in the site’s settings.',
    },
    'no-purpose': {
      title: '“{snippet}” waits for consent to “{purpose}”, which this site does not ask for',
      advice: 'Choose one of the site’s purposes, or define this one in its settings.',
    },
    'no-consent': {
      title: '“{snippet}” waits for consent to “{purpose}”, which this site does not ask for',
      advice:
        'In the site’s settings, list the purposes that visitors are asked about and name the cookie that stores the answer.',
    },
  },
  isFixable: false,
  wrong: [
    {
      name: 'Pixel',
      limits: { consent: ['marketing'] },
      parts: [{ placement: 'head-end', code: PIXEL }],
    },
  ],
  right: [
    { name: 'Pixel', limits: { consent: ['adverts'] }, parts: [{ placement: 'head-end', code: PIXEL }] },
  ],
  *run({ snapshot }) {
    for (const snippet of snapshot.snippets) {
      if (snippet.state !== 'on') continue;
      for (const { about, message, params } of missing(snippet, snapshot.site))
        yield {
          about,
          message,
          params: { snippet: snippet.name, group: '', purpose: '', ...params },
          subjects: [{ snippet: snippet.key, name: snippet.name }],
          evidence: [],
        };
    }
  },
});

interface Missing {
  readonly about: string;
  readonly message: 'no-group' | 'no-purpose' | 'no-consent';
  readonly params: { readonly group?: string; readonly purpose?: string };
}

function* missing({ pages, limits }: SnapshotSnippet, site: Snapshot['site']): Generator<Missing> {
  const groups = new Set(site.pageGroups?.map(({ key }) => `@${key}`));
  for (const entry of new Set([...pages.include, ...pages.exclude]))
    if (isGroupReference(entry) && !groups.has(entry))
      yield {
        about: entry,
        message: 'no-group',
        params: { group: entry },
      };
  const categories = new Set(site.consent?.categories.map(({ key }) => key));
  for (const key of limits?.consent ?? [])
    if (!categories.has(key))
      yield {
        about: `consent ${key}`,
        message: site.consent ? 'no-purpose' : 'no-consent',
        params: { purpose: key },
      };
}
