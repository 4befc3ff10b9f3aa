import { say } from '../../texts/say.js';
import { VISIT_TEXTS as T } from '../../texts/visit.js';
import type { LoadEvidence, SeenElement } from '../../visit/index.js';
import { isOf } from '../attribution.js';
import { rungsOf } from '../kinds.js';
import { hasId } from './page-ids.js';
import { providerSays } from './provider-says.js';
import type { Cause, RungCase, RungFound } from './types.js';

/** Elements smaller than this are counters' pictures and the like. */
const LEAST_PIXELS = 8;

/** What it puts into the page is to be seen, inside of the window, and can be clicked. */
export function judgeShown(rung: RungCase): RungFound {
  const { load } = rung;
  const elements = elementsOf(rung).filter((element) => !isCounter(element));
  const { shows } = rungsOf(rung.parts);
  const good = elements.find(
    (element) =>
      isInSight(element, load.window) && (element.coveredBy === undefined || element.isUnderModal === true),
  );
  if (good) {
    const what = nameOf(good);
    const notes = good.coveredBy === undefined ? [] : [say(T.underModal, { what: good.coveredBy })];
    return {
      state: 'reached',
      message: say(good.position === 'static' ? T.shownInPage : T.shownAt, { what }),
      ...(notes.length > 0 ? { notes } : {}),
    };
  }
  const isBanner = rung.parts.some(({ facts }) => facts.shape.kind === 'consent');
  if (isBanner && rung.load.answer !== undefined) return { state: 'none', message: T.answeredAlready };
  if (!shows) return { state: 'none', message: T.showsNothing };
  return { state: 'failed', isOwn: true, cause: causeOf(rung, elements) };
}

/** Elements that a snippet has put into the page. */
export function elementsOf({ snippet, load, attribution, probed }: RungCase): readonly SeenElement[] {
  return load.elements.filter((element) => isOf(attribution.ofElement(element, probed), snippet));
}

function causeOf(rung: RungCase, elements: readonly SeenElement[]): Cause {
  const { load, parts, attribution, all } = rung;
  const seen = elements.find((element) => element.isVisible);
  if (seen?.coveredBy !== undefined && isInSight(seen, load.window)) {
    const over = load.elements.find(({ selector }) => selector === seen.coveredBy);
    const owner = over && attribution.ofElement(over, rung.probed);
    const by =
      owner?.kind === 'snippet' ? all.find(({ snippet }) => snippet === owner.snippet)?.name : undefined;
    const what = nameOf(seen);
    return {
      id: 'covered',
      message:
        by === undefined
          ? say(T.coveredByPage, { what, by: over ? nameOf(over) : seen.coveredBy })
          : say(T.covered, { what, by }),
      advice: T.coveredAdvice,
      who: by === undefined ? 'site' : 'you',
      evidence: [say(T.coveredEvidence, { what: seen.selector, by: seen.coveredBy })],
    };
  }
  if (seen)
    return {
      id: 'outside',
      message: say(T.outside, { what: nameOf(seen) }),
      advice: T.outsideAdvice,
      who: 'site',
      evidence: [
        `${seen.selector}: x ${seen.box.x}, y ${seen.box.y}, ${seen.box.width} × ${seen.box.height}`,
      ],
    };
  // An empty place that a part brings is there to be filled.
  const hidden = elements.find(({ hidden: css, text }) => css !== 'no size' || text !== '');
  if (hidden)
    return {
      id: 'hidden',
      message: say(T.hidden, { what: nameOf(hidden), css: hidden.hidden ?? '' }),
      advice: T.hiddenAdvice,
      who: 'site',
      evidence: [`${hidden.selector}: ${hidden.hidden ?? ''}`],
    };
  const said = providerSays(rung);
  if (said) return said;
  const need = parts
    .flatMap(({ facts }) => facts.needs)
    .find(({ id }) => id !== undefined && !hasId(load.dom, id));
  if (need)
    return {
      id: 'no-element',
      message: say(T.nothingShownNoElement, { selector: need.selector }),
      advice: T.missingElementAdvice,
      who: 'you',
      evidence: [need.selector],
    };
  return {
    id: 'nothing-shown',
    message: T.nothingShown,
    advice: T.nothingShownAdvice,
    who: 'unknown',
    evidence: [],
  };
}

function isCounter({ box, isVisible }: SeenElement): boolean {
  return isVisible && (box.width < LEAST_PIXELS || box.height < LEAST_PIXELS);
}

/** What moves with the page is somewhere on it; what stays in the window has to be in the window. */
function isInSight({ isVisible, position, box }: SeenElement, window: LoadEvidence['window']): boolean {
  if (!isVisible) return false;
  if (box.x + box.width <= 2 || box.x >= window.width - 2) return false;
  if (position === 'static') return box.y + box.height > 0;
  if (position === 'sticky') return true;
  return box.y + box.height > 2 && box.y < window.height - 2;
}

/** What people would call an element: by its text, or else its tag. */
export function nameOf({ text, tag }: Pick<SeenElement, 'text' | 'tag'>): string {
  const short = text.length > 40 ? `${text.slice(0, 39)}…` : text;
  return short === '' ? tag : `“${short}”`;
}
