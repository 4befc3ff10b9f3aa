import type { Node } from 'acorn';
import type { Definition } from '../types.js';
import { isBrowserName } from './browser-names.js';
import { isGuarded } from './execution-context.js';
import { isMadeOf, isStub, keepsOld } from './stubs.js';
import { HOLE, type Value } from './values.js';
import type { Walker } from './walker.js';

/** A global is used that the code did not make. */
export function useGlobal(walker: Walker, name: string, node: Node): void {
  const { record, context } = walker;
  record.use({
    name,
    when: context.phase,
    isGuarded: isGuarded(context, name),
    range: walker.range(node),
    confidence: 'certain',
  });
}

/** A list that others fill is emptied. */
export function resetGlobal(walker: Walker, name: string, node: Node): void {
  const { record, context } = walker;
  record.reset({ name, when: context.phase, range: walker.range(node), confidence: 'certain' });
}

/** A global is made. `value` may be one that keeps what is there already; `from` is the expression that it comes from. */
export function defineGlobal(walker: Walker, name: string, value: Value, node: Node, from?: Node): void {
  if (isBrowserName(name) || name.includes(HOLE)) return;
  const { record, context } = walker;
  const isKept = isGuarded(context, name) || (from !== undefined && (keepsOld(from) || isMadeOf(from, name)));
  const range = walker.range(node);
  record.define({
    name,
    when: context.phase,
    what: kindOf(value),
    isStub: isStub(value) || isKept,
    range,
    confidence: 'certain',
  });
  record.globals.set(name, value);
  const isPlain =
    value.kind === 'object' && [...value.properties.values()].every(({ kind }) => kind !== 'function');
  if (!isKept && (value.kind === 'array' || isPlain))
    record.reset({ name, when: context.phase, range, confidence: 'certain' });
  if (value.kind !== 'object') return;
  const keys = [...value.properties.keys()];
  if (keys.length > 0 && isPlain)
    record.settings.push({ name, keys, range: value.range, confidence: 'certain' });
}

function kindOf({ kind }: Value): Definition['what'] {
  if (kind === 'class') return 'function';
  return kind === 'function' || kind === 'object' || kind === 'array' ? kind : 'value';
}

/** Gives a name a value; one that nobody has declared becomes a global. */
export function assignName(walker: Walker, name: string, value: Value, node: Node, from?: Node): void {
  const scope = walker.context.scope.find(name);
  scope?.set(name, value);
  if (scope && (scope.parent !== undefined || walker.isModule)) return;
  if (!isBrowserName(name)) defineGlobal(walker, name, value, node, from);
}

/** The value of a name. `isCheck`: it is only asked for. */
export function lookUp(walker: Walker, name: string, node: Node, isCheck = false): Value {
  const own = walker.context.scope.find(name)?.get(name) ?? walker.record.globals.get(name);
  if (own) return own;
  if (isBrowserName(name)) return { kind: 'host', path: name };
  if (!isCheck) useGlobal(walker, name, node);
  return { kind: 'global', name, path: '' };
}
