import { isGroupReference } from '../../reach/index.js';
import type { Snapshot, SnapshotSnippet } from '../../snapshot/index.js';
import type { Check } from '../check.js';

const PIXEL = '<script async src="https://glintpixel.example/glint.js?id=GP-4417"></script>';

export const undefinedReach: Check = {
  id: 'undefined-reach',
  area: 'activation',
  severity: 'error',
  title: 'A reach that names something the site does not have',
  why: 'A page group that is gone holds no page, and a purpose that no visitor is asked about is never agreed to: the snippet is switched on and never runs.',
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
      for (const { about, title, advice } of missing(snippet, snapshot.site))
        yield {
          about,
          title,
          advice,
          subjects: [{ snippet: snippet.key, name: snippet.name }],
          evidence: [],
        };
    }
  },
};

function* missing(
  { name, pages, limits }: SnapshotSnippet,
  site: Snapshot['site'],
): Generator<{ about: string; title: string; advice: string }> {
  const groups = new Set(site.pageGroups?.map(({ key }) => `@${key}`));
  for (const entry of new Set([...pages.include, ...pages.exclude]))
    if (isGroupReference(entry) && !groups.has(entry))
      yield {
        about: entry,
        title: `“${name}” names the page group ${entry}, which is not there`,
        advice:
          'Choose another group or write the pages themselves, or define the group in the site’s settings.',
      };
  const categories = new Set(site.consent?.categories.map(({ key }) => key));
  for (const key of limits?.consent ?? [])
    if (!categories.has(key))
      yield {
        about: `consent ${key}`,
        title: `“${name}” waits for consent to “${key}”, about which this site asks nobody`,
        advice: site.consent
          ? 'Choose one of the purposes that the site defines, or define this one in its settings.'
          : 'Say in the site’s settings which purposes visitors are asked about, and which cookie keeps the answer.',
      };
}
