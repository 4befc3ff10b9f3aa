import type { ArrowFunctionExpression, FunctionDeclaration, FunctionExpression } from 'acorn';
import type { Range, Confidence } from '../types.js';
import type { Scope } from './scope.js';

export type FunctionNode = FunctionDeclaration | FunctionExpression | ArrowFunctionExpression;

/** What a value is known to be without running the code. */
export type Value =
  | TextValue
  | PlainValue
  | ObjectValue
  | ArrayValue
  | FunctionValue
  | ElementValue
  | FoundValue
  | HostValue
  | GlobalValue
  | ClassValue
  | CollectionValue
  | UnknownValue;

/** A string; `…` stands for what is not known of it. */
export interface TextValue {
  readonly kind: 'text';
  readonly text: string;
  readonly confidence: Confidence;
}

export interface PlainValue {
  readonly kind: 'plain';
  readonly value: number | boolean | null | undefined;
}

export interface ObjectValue {
  readonly kind: 'object';
  readonly properties: Map<string, Value>;
  readonly range: Range;
}

export interface ArrayValue {
  readonly kind: 'array';
  readonly items: Value[];
  readonly range: Range;
}

export interface FunctionValue {
  readonly kind: 'function';
  readonly node: FunctionNode;
  readonly scope: Scope<Value>;
  readonly properties: Map<string, Value>;
}

/** A class; its methods are followed where they are written. */
export interface ClassValue {
  readonly kind: 'class';
}

/** A map or a set of the language: what is put into it is for the code's own use. */
export interface CollectionValue {
  readonly kind: 'collection';
}

/** An element that the code makes. */
export interface ElementValue {
  readonly kind: 'element';
  readonly tag: string;
  readonly properties: Map<string, Value>;
  readonly styles: Map<string, string>;
  /** Where it is made, and where its address is given. */
  readonly range: Range;
  addressRange: Range | undefined;
  isPlaced: boolean;
}

/** An element, or several, of the page. */
export interface FoundValue {
  readonly kind: 'found';
  readonly selector: string;
  /** Of many, as lists are. */
  readonly isList: boolean;
}

/** Something that the browser brings, by its path from window: `''` is window itself. */
export interface HostValue {
  readonly kind: 'host';
  readonly path: string;
}

/** The value of a global that the code did not make. */
export interface GlobalValue {
  readonly kind: 'global';
  readonly name: string;
  /** What was asked of it: `''`, or a path of property names. */
  readonly path: string;
}

export interface UnknownValue {
  readonly kind: 'unknown';
}

export const UNKNOWN: UnknownValue = { kind: 'unknown' };
export const UNDEFINED: PlainValue = { kind: 'plain', value: undefined };
export const COLLECTION: CollectionValue = { kind: 'collection' };
export const WINDOW: HostValue = { kind: 'host', path: '' };

export function text(value: string, confidence: Confidence = 'certain'): TextValue {
  return { kind: 'text', text: value, confidence };
}

/** A text that a script puts together is followed so far: doubled forty times it would fill the memory. */
const MAX_TEXT_LENGTH = 1 << 16;
/** Items of an array that a script puts together. */
const MAX_ITEMS = 2_000;

/** Texts one after the other, with `separator` between them; what is too long ends in a hole. */
export function joinTexts(texts: readonly TextValue[], separator = ''): TextValue {
  let whole = '';
  for (const [i, one] of texts.entries()) {
    if (i > 0) whole += separator;
    whole += one.text;
    if (whole.length > MAX_TEXT_LENGTH && texts.length > 1)
      return text(whole.slice(0, MAX_TEXT_LENGTH) + HOLE, lessConfident(leastConfident(texts), 'likely'));
  }
  return text(whole, leastConfident(texts));
}

/** Items as far as they are followed. */
export function fewItems(items: readonly Value[]): Value[] {
  return items.slice(0, MAX_ITEMS);
}

/** What is written in place of a value that is not known. */
export const HOLE = '…';

/** A value as part of a string. */
export function asText(value: Value): TextValue {
  if (value.kind === 'text') return value;
  if (value.kind === 'plain') return text(String(value.value));
  return text(HOLE, 'likely');
}

/** Only what is written decides; what could be otherwise on another page is left open. */
export function certainTruth(value: Value): boolean | undefined {
  if (value.kind === 'plain') return Boolean(value.value);
  if (value.kind === 'text' && value.confidence === 'certain') return value.text !== '';
  return undefined;
}

/** Whether a value counts as true; undefined where that is not known. */
export function truth(value: Value): boolean | undefined {
  switch (value.kind) {
    case 'text':
      return value.text.includes(HOLE) ? undefined : value.text !== '';
    case 'plain':
      return Boolean(value.value);
    case 'unknown':
    case 'global':
    case 'found':
      return undefined;
    case 'host':
      return value.path.includes('.') ? undefined : true;
    default:
      return true;
  }
}

/** The least sure of several texts. */
export function leastConfident(texts: readonly TextValue[]): Confidence {
  let confidence: Confidence = 'certain';
  for (const one of texts) confidence = lessConfident(confidence, one.confidence);
  return confidence;
}

export function lessConfident(a: Confidence, b: Confidence): Confidence {
  const order: readonly Confidence[] = ['certain', 'likely', 'guess'];
  return order[Math.max(order.indexOf(a), order.indexOf(b))]!;
}
