import type { CallExpression, Expression } from 'acorn';
import { isWindowName } from './browser-names.js';
import type { ScriptReader } from './reader.js';

/** Globals that a condition asks for: `typeof x`, `window.x`, `x`, `'x' in window`, and these combined. */
export function guardedBy(reader: ScriptReader, test: Expression): string[] {
  switch (test.type) {
    case 'LogicalExpression':
      return [...guardedBy(reader, test.left), ...guardedBy(reader, test.right)];
    case 'UnaryExpression':
      if (test.operator === 'typeof' || test.operator === '!') return guardedBy(reader, test.argument);
      return [];
    case 'BinaryExpression':
      if (test.operator === 'in' && test.left.type === 'Literal' && typeof test.left.value === 'string')
        return [test.left.value];
      return [
        ...(test.left.type === 'PrivateIdentifier' ? [] : guardedBy(reader, test.left)),
        ...guardedBy(reader, test.right),
      ];
    case 'ChainExpression':
    case 'ParenthesizedExpression':
      return guardedBy(reader, test.expression);
    case 'CallExpression': {
      const selector = soughtSelector(test);
      if (selector !== undefined) return [elementGuard(selector)];
      return test.callee.type === 'Super' ? [] : guardedBy(reader, test.callee);
    }
    case 'Identifier': {
      if (reader.scope.find(test.name) === undefined) return [test.name];
      // A name of its own that holds what a global held.
      const value = reader.scope.find(test.name)!.get(test.name);
      if (value?.kind === 'found') return [elementGuard(value.selector)];
      return value?.kind === 'global' ? [value.name] : [];
    }
    case 'MemberExpression': {
      const { object, property } = test;
      if (object.type === 'Super' || property.type === 'PrivateIdentifier') return [];
      if (isWindowLike(reader, object)) {
        if (!test.computed && property.type === 'Identifier') return [property.name];
        if (property.type === 'Literal' && typeof property.value === 'string') return [property.value];
        const value = test.computed ? reader.eval(property) : undefined;
        return value?.kind === 'text' ? [value.text] : [];
      }
      return guardedBy(reader, object);
    }
    default:
      return [];
  }
}

/** The guard of an element, apart from those of globals. */
export function elementGuard(selector: string): string {
  return `element ${selector}`;
}

/** What `document.getElementById('x')` and its like look for. */
function soughtSelector(call: CallExpression): string | undefined {
  const { callee } = call;
  const [sought] = call.arguments;
  if (callee.type !== 'MemberExpression' || callee.property.type !== 'Identifier') return undefined;
  if (sought?.type !== 'Literal' || typeof sought.value !== 'string') return undefined;
  if (callee.property.name === 'getElementById') return `#${sought.value}`;
  return callee.property.name === 'querySelector' ? sought.value : undefined;
}

function isWindowLike(reader: ScriptReader, node: Expression): boolean {
  if (node.type !== 'Identifier') return false;
  const scope = reader.scope.find(node.name);
  if (!scope) return isWindowName(node.name);
  const value = scope.get(node.name);
  return value?.kind === 'host' && (value.path === '' || isWindowName(value.path));
}
