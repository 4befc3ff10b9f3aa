import type { FloatingBox } from './types.js';

type Styles = ReadonlyMap<string, string>;
type Edge = 'top' | 'right' | 'bottom' | 'left';

const EDGES: readonly Edge[] = ['top', 'right', 'bottom', 'left'];
/** Edges in the terms of a writing mode from left to right, top to bottom (CSS Logical Properties 1, 4.3). */
const LOGICAL: Readonly<Record<string, Edge>> = {
  'inset-block-start': 'top',
  'inset-block-end': 'bottom',
  'inset-inline-start': 'left',
  'inset-inline-end': 'right',
};
/** So deep custom properties are looked up in each other. */
const MAX_LOOKUPS = 5;
const MAX_VALUE = 300;

/** What is said of a box beside where it came from. */
export type BoxShape = Omit<FloatingBox, 'range' | 'confidence'>;

/**
 * What a style says of a floating box; undefined for one that does not float, or that waits outside of the window.
 *
 * @param variables - custom properties, by name
 */
export function boxOf(styles: Styles, variables: Styles = new Map()): BoxShape | undefined {
  const valueOf = (name: string): string | undefined => {
    let value = plain(styles.get(name));
    for (let i = 0; i < MAX_LOOKUPS && value?.includes('var(') === true && value.length < MAX_VALUE; i++)
      value = value.replace(
        /var\(\s*(--[\w-]+)\s*(?:,([^()]*))?\)/g,
        (_, variable: string, fallback: string | undefined) =>
          styles.get(variable) ?? variables.get(variable) ?? fallback?.trim() ?? '?',
      );
    return value?.toLowerCase();
  };
  const position = valueOf('position');
  if (position !== 'fixed' && position !== 'sticky') return undefined;
  const edges = edgesOf(valueOf);
  if (isOutside(edges, valueOf('transform') ?? valueOf('translate'))) return undefined;
  const lengths = Object.fromEntries(
    Object.entries(edges).flatMap(([edge, value]) => {
      const length = pixels(value);
      return length === undefined ? [] : [[edge, length]];
    }),
  );
  const [width, height, zIndex] = [
    pixels(valueOf('width')),
    pixels(valueOf('height')),
    number(valueOf('z-index')),
  ];
  return {
    corner: cornerOf(edges, valueOf('width')),
    position,
    edges: lengths,
    ...(width === undefined ? {} : { width }),
    ...(height === undefined ? {} : { height }),
    ...(zIndex === undefined ? {} : { zIndex }),
  };
}

/** A value without what makes it win over others. */
function plain(value: string | undefined): string | undefined {
  const trimmed = value?.trim();
  return trimmed?.toLowerCase().endsWith('!important') === true
    ? trimmed.slice(0, -'!important'.length).trim()
    : trimmed;
}

function edgesOf(valueOf: (name: string) => string | undefined): Partial<Record<Edge, string>> {
  const edges: Partial<Record<Edge, string>> = {};
  const set = (edge: Edge, value: string | undefined): void => {
    if (value !== undefined && value !== '' && value !== 'auto') edges[edge] = value;
  };
  const pair = (name: string, [first, second]: readonly [Edge, Edge]): void => {
    const values = valueOf(name)?.split(/\s+/) ?? [];
    set(first, values[0]);
    set(second, values[1] ?? values[0]);
  };
  // Of one to four values, as margins have them (CSS Positioned Layout 3, 3.2).
  const inset = valueOf('inset')?.match(/(?:[^\s()]|\([^()]*\))+/g);
  if (inset)
    EDGES.forEach((edge, at) => {
      set(edge, inset[at] ?? inset[at - 2] ?? inset[0]);
    });
  pair('inset-block', ['top', 'bottom']);
  pair('inset-inline', ['left', 'right']);
  for (const [name, edge] of Object.entries(LOGICAL)) set(edge, valueOf(name));
  for (const edge of EDGES) set(edge, valueOf(edge));
  return edges;
}

function cornerOf(edges: Partial<Record<Edge, string>>, width: string | undefined): string {
  const has = (edge: Edge): boolean => edges[edge] !== undefined && !isMiddle(edges[edge]);
  const vertical = has('top') && has('bottom') ? 'whole' : has('bottom') ? 'bottom' : has('top') ? 'top' : '';
  const isWide = width === '100%' || width === '100vw';
  const horizontal =
    (has('left') && has('right')) || isWide ? 'whole' : has('right') ? 'right' : has('left') ? 'left' : '';
  if (vertical === 'whole' && horizontal === 'whole') return 'whole page';
  if (horizontal === 'whole' || (horizontal === '' && vertical !== '')) return `${vertical} edge`.trim();
  // Halfway down an edge is no corner.
  if (vertical === '' && horizontal !== '') return `${horizontal} edge`;
  const corner = [vertical, horizontal].filter((word) => word !== '' && word !== 'whole').join(' ');
  return corner === '' ? 'unknown' : corner;
}

/** Percentages of the window far from its edges: `left: 50%`. */
function isMiddle(value: string): boolean {
  const percent = /^(\d+(?:\.\d+)?)(?:%|v[wh])$/.exec(value)?.[1];
  return percent !== undefined && Number(percent) >= MIDDLE && Number(percent) <= 100 - MIDDLE;
}

const MIDDLE = 30;

/** Beyond an edge by as much as a box is large: it comes in only when a script moves it. */
function isOutside(edges: Partial<Record<Edge, string>>, transform: string | undefined): boolean {
  const isFar = Object.values(edges).some((value) => {
    const length = pixels(value);
    return (length !== undefined && length <= -100) || /^-\d{2,}(?:%|v[wh])$|^-?100v[wh]$|^100%$/.test(value);
  });
  const moved = /translate(?:[xy3]d?|3d)?\(\s*(-?\d+)%(?:\s*,\s*(-?\d+)%)?/.exec(transform ?? '');
  return isFar || (moved !== null && [moved[1], moved[2]].some((by) => Math.abs(Number(by ?? 0)) >= 100));
}

/** Of a length in pixels, or in `rem` and `em` of 16 of them; undefined for others. */
function pixels(value: string | undefined): number | undefined {
  const match = /^(-?\d+(?:\.\d+)?|-?\.\d+)(px|rem|em)?$/.exec(value ?? '');
  if (!match || (match[2] === undefined && Number(match[1]) !== 0)) return undefined;
  return Number(match[1]) * (match[2] === 'rem' || match[2] === 'em' ? 16 : 1);
}

function number(value: string | undefined): number | undefined {
  return value !== undefined && /^-?\d+$/.test(value) ? Number(value) : undefined;
}
