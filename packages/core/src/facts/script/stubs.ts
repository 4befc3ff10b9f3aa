import type { Identifier, Literal, Node } from 'acorn';
import { childNodes } from '../../bounds/parse-script.js';
import { walk } from './syntax-tree.js';
import type { Value } from './values.js';

/** `x || …` and `x ?? …` keep what is there; so does `x ||= …`. */
export function keepsOld(node: Node): boolean {
  const { type, operator } = node as Node & { operator?: string };
  if (type === 'LogicalExpression') return operator === '||' || operator === '??';
  return type === 'AssignmentExpression' && (operator === '||=' || operator === '??=');
}

/** What is written over, and more than this, is not looked through for what was there before. */
const MAX_NODES = 200;

/** Whether a value is made of what a global held: `[].concat(window.x)`, `{ ...x, more: 1 }`. */
export function isMadeOf(node: Node, name: string): boolean {
  const waiting: Node[] = [node];
  let seen = 0;
  for (let next = waiting.pop(); next && seen < MAX_NODES; next = waiting.pop(), seen++) {
    // What a function does with it happens later.
    if (/Function/.test(next.type)) continue;
    if (next.type === 'Identifier' && (next as Identifier).name === name) return true;
    if (next.type === 'Literal' && (next as Literal).value === name) return true;
    waiting.push(...childNodes(next));
  }
  return false;
}

/** A function that only keeps its arguments for later: it pushes them to a queue. */
export function isStub(value: Value): boolean {
  if (value.kind !== 'function') return false;
  const { node } = value;
  const rests = node.params.filter((param) => param.type === 'RestElement').length > 0;
  const pushes: Node[] = [];
  let size = 0;
  walk(node.body, (inner) => {
    size++;
    if (
      inner.type === 'CallExpression' &&
      inner.callee.type === 'MemberExpression' &&
      inner.callee.property.type === 'Identifier' &&
      ['push', 'unshift'].includes(inner.callee.property.name)
    )
      pushes.push(inner);
  });
  return size < 60 && pushes.some((push) => rests || mentionsArguments(push));
}

function mentionsArguments(node: Node): boolean {
  let found = false;
  walk(node, (inner) => {
    if (inner.type === 'Identifier' && inner.name === 'arguments') found = true;
  });
  return found;
}
