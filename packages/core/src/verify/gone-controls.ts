import { MAX_CONTROLS, type LoadEvidence, type Rectangle, type SeenControl } from '../visit/index.js';

/** Menus change, so links count where many are gone. */
const LEAST_LINKS = 3;
const LINK_SHARE = 0.3;
/** What is put in before a control moves it down. */
const SLACK = 150;

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
  const instead = [
    ...now.filter((one) => !known.has(keyOf(one))),
    ...load.elements.filter(
      ({ isVisible, position, stack }) => isVisible && position === 'static' && stack.length > 0,
    ),
  ];
  const stands = (place: Rectangle, ones: readonly { readonly box: Rectangle }[]): boolean =>
    ones.some(({ box }) => isAbout(box, place));
  const gone = [...known].flatMap(([key, ones]) => {
    const still = left.get(key) ?? [];
    const replaced = ones.filter(({ box }) => stands(box, instead)).length;
    const missing = ones.length - still.length - replaced;
    if (missing <= 0) return [];
    // Of several that are called the same those are gone in whose place none stands.
    const bySurety = ones.toSorted((a, b) => Number(stands(a.box, still)) - Number(stands(b.box, still)));
    return bySurety.slice(0, missing);
  });
  const links = gone.filter(({ kind }) => kind === 'link').length;
  const all = before.filter(({ kind }) => kind === 'link').length;
  const areLinksGone = links >= LEAST_LINKS && links >= all * LINK_SHARE;
  return gone.filter(({ kind }) => kind !== 'link' || areLinksGone);
}

function keyOf({ kind, name }: SeenControl): string {
  return `${kind} ${name}`;
}

function groupsOf(controls: readonly SeenControl[]): ReadonlyMap<string, readonly SeenControl[]> {
  const groups = new Map<string, SeenControl[]>();
  for (const one of controls) {
    const group = groups.get(keyOf(one));
    if (group) group.push(one);
    else groups.set(keyOf(one), [one]);
  }
  return groups;
}

/** Whether a box stands where another one stood, or a little below. */
function isAbout(box: Rectangle, place: Rectangle): boolean {
  return (
    box.x < place.x + place.width &&
    place.x < box.x + box.width &&
    box.y < place.y + place.height + SLACK &&
    place.y < box.y + box.height
  );
}
