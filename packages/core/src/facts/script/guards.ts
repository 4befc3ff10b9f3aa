import type { CallExpression, Expression } from 'acorn';
import { isWindowName } from './browser-names.js';
import type { Walker } from './walker.js';

/** Globals that a condition asks for: `typeof x`, `window.x`, `x`, `'x' in window`, and these combined. */
export function guardedBy(walker: Walker, test: Expression): string[] {
  switch (test.type) {
    case 'LogicalExpression':
      return [...guardedBy(walker, test.left), ...guardedBy(walker, test.right)];
    case 'UnaryExpression':
      if (test.operator === 'typeof' || test.operator === '!') return guardedBy(walker, test.argument);
      return [];
    case 'BinaryExpression':
      if (test.operator === 'in' && test.left.type === 'Literal' && typeof test.left.value === 'string')
        return [test.left.value];
      return [
        ...(test.left.type === 'PrivateIdentifier' ? [] : guardedBy(walker, test.left)),
        ...guardedBy(walker, test.right),
      ];
    case 'ChainExpression':
    case 'ParenthesizedExpression':
      return guardedBy(walker, test.expression);
    case 'CallExpression': {
      const selector = soughtSelector(test);
      if (selector !== undefined) return [elementGuard(selector)];
      return test.callee.type === 'Super' ? [] : guardedBy(walker, test.callee);
    }
    case 'Identifier': {
      if (walker.context.scope.find(test.name) === undefined) return [test.name];
      // A name of its own that holds what a global held.
      const value = walker.context.scope.find(test.name)!.get(test.name);
      if (value?.kind === 'found') return [elementGuard(value.selector)];
      return value?.kind === 'global' ? [value.name] : [];
    }
    case 'MemberExpression': {
      const { object, property } = test;
      if (object.type === 'Super' || property.type === 'PrivateIdentifier') return [];
      if (isWindowLike(walker, object)) {
        if (!test.computed && property.type === 'Identifier') return [property.name];
        if (property.type === 'Literal' && typeof property.value === 'string') return [property.value];
        const value = test.computed ? walker.evaluate(property) : undefined;
        return value?.kind === 'text' ? [value.text] : [];
      }
      return guardedBy(walker, object);
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

function isWindowLike(walker: Walker, node: Expression): boolean {
  if (node.type !== 'Identifier') return false;
  const scope = walker.context.scope.find(node.name);
  if (!scope) return isWindowName(node.name);
  const value = scope.get(node.name);
  return value?.kind === 'host' && (value.path === '' || isWindowName(value.path));
}
