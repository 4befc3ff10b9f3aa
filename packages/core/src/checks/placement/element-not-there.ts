import { idsBehind, skeletonIds } from '../../contain/index.js';
import { isAnchor, placementKey } from '../../insert/index.js';
import { partName } from '../../snapshot/index.js';
import type { CheckedSet } from '../checked-set.js';
import { evidence, subject } from '../evidence.js';
import { byId } from '../ties/by-id.js';
import { byUnread } from '../ties/by-unread.js';
import { defineCheck } from '../check.js';
import type { ReadPart } from '../read-part.js';
import { toBodyEnd } from '../to-body-end.js';

export const elementNotThere = defineCheck({
  id: 'element-not-there',
  area: 'placement',
  severity: 'error',
  title: 'A script looks for an element too early',
  why: 'A script runs where it is in the page. Anything further down does not exist yet, so the script stops with an error and does nothing.',
  asks: ['survey'],
  messages: {
    'own-element': {
      title: '{part} looks for {selector} before it exists',
      advice: 'Move the script below the element it looks for.',
    },
    'in-head': {
      title: '{part} looks for {selector} before it exists',
      advice: 'Move the code to the end of the body, where the whole page exists.',
      fix: 'Move it to the end of the body.',
    },
    'further-down': {
      title: '{part} looks for {selector} before it exists',
      advice: 'On {page}, for example, the element comes further down. Move the code to the end of the body.',
      fix: 'Move it to the end of the body.',
    },
    nowhere: {
      title: '{part} looks for {selector}, which is on none of its pages',
      advice:
        'No snippet and no page has this element. Correct the name, add the element, or run the code only where the element exists.',
    },
    'nothing-to-fill': {
      title: '{part} fills {selector}, which does not exist',
      advice:
        'No snippet and no known page has this element, so the script has nowhere to show anything. Add the element where it should appear, as given on the provider’s page.',
    },
    'some-pages': {
      title: '{part} looks for {selector}, which {page} does not have',
      advice:
        'Other pages have this element. Exclude this one, or have the code check that the element exists.',
    },
  },
  roles: {
    'before-element': 'the element comes after this',
    'in-head': 'this element is never in the head',
    seeks: 'looks for {selector}',
    fills: 'fills {selector}',
  },
  isFixable: true,
  wrong: [
    {
      name: 'Wide form',
      parts: [
        {
          placement: 'head-end',
          code: "<script>document.getElementById('newsletter').className = 'wide';</script>",
        },
      ],
    },
  ],
  right: [
    {
      name: 'Wide form',
      parts: [
        {
          placement: 'body-end',
          code: "<script>document.getElementById('newsletter').className = 'wide';</script>",
        },
      ],
    },
    {
      name: 'Waits',
      parts: [
        {
          placement: 'head-end',
          code: "<script>addEventListener('DOMContentLoaded', function () { document.getElementById('newsletter').className = 'wide'; });</script>",
        },
      ],
    },
  ],
  ties: [byId, byUnread],
  *run(set) {
    for (const part of set.running) {
      for (const need of part.facts.needs) {
        if (need.when !== 'parse' || need.isGuarded || need.own === 'before') continue;
        if (need.own === undefined && !part.isInHead) continue;
        const isOwn = need.own === 'after';
        yield {
          about: need.selector,
          ...(isOwn
            ? { message: 'own-element' }
            : {
                message: 'in-head',
                ...toBodyEnd(part),
              }),
          params: { part: partName(part), selector: need.selector },
          subjects: [subject(part)],
          evidence: [evidence(part, need.range, isOwn ? 'before-element' : 'in-head')],
        };
      }
      yield* onItsPages(set, part);
      yield* withoutTarget(set, part);
    }
  },
});

/** Elements that the pages themselves have further down, or not at all. */
function* onItsPages(set: CheckedSet, part: ReadPart) {
  for (const need of part.facts.needs) {
    const { id } = need;
    if (id === undefined || need.isGuarded || need.own !== undefined) continue;
    if ((part.isInHead && need.when === 'parse') || isMade(set, part, id)) continue;
    const pages = set.skeletonsOf(part);
    const about = {
      about: need.selector,
      subjects: [subject(part)],
      evidence: [evidence(part, need.range, 'seeks' as const)],
    };
    const params = { part: partName(part), selector: need.selector };
    const without = pages.filter((page) => !skeletonIds(page).has(id));
    const [page] = without;
    if (page && isCertain(set, part)) {
      const severity = 'warning' as const;
      if (without.length === pages.length) yield { ...about, message: 'nowhere' as const, params, severity };
      else
        yield {
          ...about,
          message: 'some-pages' as const,
          params: { ...params, page: page.path },
          severity,
        };
      continue;
    }
    const below = pages.find((one) => idsBehind(one, part.part.placement)?.has(id));
    if (!below || need.when !== 'parse') continue;
    yield {
      ...about,
      message: 'further-down' as const,
      severity: 'warning' as const,
      params: { ...params, page: below.path },
      ...toBodyEnd(part),
    };
  }
}

/** Elements that its loader is told to fill, and that are on none of its pages. */
function* withoutTarget(set: CheckedSet, part: ReadPart) {
  const told = new Set(part.facts.needs.flatMap(({ id }) => id ?? []));
  const { placement } = part.part;
  for (const { id, range } of part.facts.targets) {
    const isAnchorOfIt = isAnchor(placement) && placementKey(placement).includes(id);
    if (told.has(id) || isAnchorOfIt || isMade(set, part, id)) continue;
    told.add(id);
    const pages = set.skeletonsOf(part);
    if (pages.some((page) => skeletonIds(page).has(id))) continue;
    yield {
      about: `fills ${id}`,
      message: 'nothing-to-fill' as const,
      params: { part: partName(part), selector: `#${id}` },
      subjects: [subject(part)],
      evidence: [evidence(part, range, 'fills' as const)],
      // Where no page is known, one of them may have it.
      severity: pages.length > 0 ? ('warning' as const) : ('advice' as const),
    };
  }
}

/** Whether a snippet or a script of the pages makes an element with this id. */
function isMade(set: CheckedSet, part: ReadPart, id: string): boolean {
  const makes = ({ facts }: Pick<ReadPart, 'facts'>): boolean => facts.makes.some((made) => made.id === id);
  return (
    set.near.running.some((other) => makes(other) && set.meeting(part, other) !== undefined) ||
    set.pageCode.things.some(makes)
  );
}

/** Whether all is known that could make elements on its pages: a script of which nobody knows what it does may. */
function isCertain(set: CheckedSet, { snippet }: ReadPart): boolean {
  const pages = set.pageCode.pagesOf(snippet);
  return pages.length > 0 && pages.every((one) => !set.holdsUnread(one, snippet));
}
