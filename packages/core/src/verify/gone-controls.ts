import { MAX_CONTROLS, type LoadEvidence, type Rectangle, type SeenControl } from '../visit/index.js';
import { meets } from './rectangles.js';

/** Menus change, so links count where many are gone. */
const LEAST_LINKS = 3;
const LINK_SHARE = 0.3;
/** What is put in before a control moves it down. */
const SLACK = 150;
/** So high is a control with what is around it. */
const ROW = 40;

/**
 * What visitors could use on a page and cannot any more: its fields and buttons, and its links where many are gone. A control in whose
 * place stands another one, or something that a script has put into the page, was replaced and is not gone.
 *
 * @param load - with everything in it
 * @param bare - the same page without
 */
export function goneControls(load: LoadEvidence, bare: LoadEvidence): readonly SeenControl[] {
  const { controls: now = [] } = load;
  const { controls: before = [] } = bare;
  // Of a page that has more of them only the first are known.
  if (load.isHung || bare.isHung || now.length >= MAX_CONTROLS) return [];
  const left = groupsOf(now);
  const known = groupsOf(before);
  const own = new Set(bare.elements.map(({ selector }) => selector));
  const replace = replacements([
    ...now.filter((one) => !known.has(controlKey(one))),
    ...load.elements.filter(
      ({ isVisible, position, stack, selector }) =>
        isVisible && position === 'static' && stack.length > 0 && !own.has(selector),
    ),
  ]);
  const gone = [...known].flatMap(([key, ones]) => {
    const still = left.get(key) ?? [];
    const missing = ones.length - still.length;
    if (missing <= 0) return [];
    // Of several that are called the same those are gone in whose place none stands.
    const stands = ({ box }: SeenControl): boolean => still.some((one) => isAbout(one.box, box));
    const bySurety = ones.toSorted((a, b) => Number(stands(a)) - Number(stands(b)));
    return bySurety.slice(0, missing).filter(({ box }) => !replace(box));
  });
  const links = gone.filter(({ kind }) => kind === 'link').length;
  const all = before.filter(({ kind }) => kind === 'link').length;
  const areLinksGone = links >= LEAST_LINKS && links >= all * LINK_SHARE;
  return gone.filter(({ kind }) => kind !== 'link' || areLinksGone);
}

/**
 * Whether a page has fewer controls of a name than without anything in it, whatever stands in their place.
 *
 * @param key - as {@link controlKey} says it
 */
export function isMissing(key: string, load: LoadEvidence, bare: LoadEvidence): boolean {
  const count = ({ controls = [] }: LoadEvidence): number =>
    controls.filter((one) => controlKey(one) === key).length;
  return count(load) < count(bare);
}

/** What a control is called, for programs. */
export function controlKey({ kind, name }: SeenControl): string {
  return `${kind} ${name}`;
}

/** Takes one of what was put in for each control that is asked about: one button replaces one, a frame a whole form. */
function replacements(put: readonly { readonly box: Rectangle }[]): (place: Rectangle) => boolean {
  const left = put.map(({ box }) => ({ box, room: Math.max(1, Math.floor(box.height / ROW)) }));
  return (place) => {
    const found = left.find(({ box, room }) => room > 0 && isAbout(box, place));
    if (found) found.room--;
    return found !== undefined;
  };
}

function groupsOf(controls: readonly SeenControl[]): ReadonlyMap<string, readonly SeenControl[]> {
  const groups = new Map<string, SeenControl[]>();
  for (const one of controls) {
    const group = groups.get(controlKey(one));
    if (group) group.push(one);
    else groups.set(controlKey(one), [one]);
  }
  return groups;
}

/** Whether a box stands where another one stood, or a little below. */
function isAbout(box: Rectangle, place: Rectangle): boolean {
  return meets(box, { ...place, height: place.height + SLACK });
}
