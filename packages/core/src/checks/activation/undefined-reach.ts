import { isGroupReference } from '../../reach/index.js';
import type { Snapshot, SnapshotSnippet } from '../../snapshot/index.js';
import { defineCheck } from '../check.js';

const PIXEL = '<script async src="https://glintpixel.example/glint.js?id=GP-4417"></script>';

export const undefinedReach = defineCheck({
  id: 'undefined-reach',
  area: 'activation',
  severity: 'error',
  title: 'A reach that names something the site does not have',
  why: 'A page group that is gone holds no page, and a purpose that no visitor is asked about is never agreed to: the snippet is switched on and never runs.',
  messages: {
    'no-group': {
      title: '“{snippet}” names the page group {group}, which is not there',
      advice:
        'Choose another group or write the pages themselves, or define the group in the site’s settings.',
    },
    'no-purpose': {
      title: '“{snippet}” waits for consent to “{purpose}”, about which this site asks nobody',
      advice: 'Choose one of the purposes that the site defines, or define this one in its settings.',
    },
    'no-consent': {
      title: '“{snippet}” waits for consent to “{purpose}”, about which this site asks nobody',
      advice:
        'Say in the site’s settings which purposes visitors are asked about, and which cookie keeps the answer.',
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
