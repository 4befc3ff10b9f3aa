import type { Walker } from './walker.js';
import type { Load, LoadMode, ResourceKind } from '../types.js';
import { boxOf } from '../boxes.js';
import { featuresOfFrame } from '../frame-features.js';
import { asText, type ElementValue, type Value } from './values.js';

/** Declarations of a style attribute, as far as they matter here. */
export function readInlineStyle(element: ElementValue, style: string): void {
  for (const declaration of style.split(';')) {
    const at = declaration.indexOf(':');
    if (at > 0)
      element.styles.set(declaration.slice(0, at).trim().toLowerCase(), declaration.slice(at + 1).trim());
  }
}

const KINDS: Readonly<{ [tag: string]: ResourceKind }> = {
  script: 'script',
  img: 'image',
  iframe: 'frame',
  embed: 'frame',
  link: 'style',
  audio: 'data',
  video: 'data',
  source: 'data',
};

/** An element that was made comes into the page, or is fetched for. */
export function placeElement(walker: Walker, element: ElementValue): void {
  if (element.isPlaced) return;
  element.isPlaced = true;
  const kind = KINDS[element.tag];
  const address = element.properties.get(element.tag === 'link' ? 'href' : 'src');
  if (kind && address) {
    const written = asText(address);
    const range = element.addressRange ?? element.range;
    walker.record.loads.push({
      address: written.text,
      kind: element.tag === 'link' ? linkKind(element) : kind,
      by: 'script',
      mode: kind === 'script' ? scriptMode(element) : 'none',
      when: walker.context.phase,
      noScript: false,
      range,
      confidence: written.confidence,
      ...fetchedAs(element),
    });
    if (kind === 'frame')
      for (const feature of featuresOfFrame(
        wordsOf(element, 'allow'),
        element.properties.has('allowFullscreen'),
      ))
        walker.record.ask(feature, range, written.text);
  }
  readBox(walker, element);
}

/** A script that a script makes is asynchronous unless it is told otherwise (HTML Standard 4.12.1, "force async"). */
function scriptMode(element: ElementValue): LoadMode {
  const type = element.properties.get('type');
  if (type?.kind === 'text' && type.text === 'module') return 'module';
  const isAsync = element.properties.get('async');
  const isOrdered = isAsync?.kind === 'plain' && !isAsync.value;
  return isOrdered ? 'defer' : 'async';
}

/** A property's text, where it is one. */
function wordsOf(element: ElementValue, name: string): string | undefined {
  const value = element.properties.get(name);
  return value?.kind === 'text' ? value.text : undefined;
}

function fetchedAs({ properties }: ElementValue): Pick<Load, 'fetchedAs'> {
  if (properties.has('crossOrigin') || properties.has('crossorigin')) return { fetchedAs: 'cors' };
  return properties.has('credentialless') ? { fetchedAs: 'credentialless' } : {};
}

function linkKind(element: ElementValue): ResourceKind {
  const rel = element.properties.get('rel');
  return rel?.kind === 'text' && !/\bstylesheet\b/i.test(rel.text) ? 'hint' : 'style';
}

/** A box that stays where it is while the page moves under it. */
function readBox(walker: Walker, element: ElementValue): void {
  const box = boxOf(element.styles);
  if (box) walker.record.boxes.push({ ...box, range: element.range, confidence: 'certain' });
}

export function isElement(value: Value | undefined): value is ElementValue {
  return value?.kind === 'element';
}
