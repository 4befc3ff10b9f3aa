import type { Node, Pattern } from 'acorn';
import { assignName, defineGlobal } from './globals.js';
import { member, setMember } from './members.js';
import { UNDEFINED, UNKNOWN, type Value } from './values.js';
import type { Walker } from './walker.js';

/** How a pattern gives values to its names: `lexical` with `let`, `const`, `class` and parameters. */
export type Binding = 'lexical' | 'var' | 'assignment';

/**
 * Gives a value to a name or a pattern (ECMAScript 8.6.2, BindingInitialization).
 *
 * @param from - the expression that the value comes from
 */
export function bind(walker: Walker, pattern: Pattern, value: Value, binding: Binding, from?: Node): void {
  switch (pattern.type) {
    case 'Identifier': {
      const { scope, isTopLevel } = walker.context;
      if (binding !== 'lexical') assignName(walker, pattern.name, value, pattern, from);
      else {
        scope.set(pattern.name, value);
        if (isTopLevel) defineGlobal(walker, pattern.name, value, pattern);
      }
      return;
    }
    case 'MemberExpression':
      setMember(walker, pattern, value);
      return;
    case 'AssignmentPattern': {
      const isMissing = value.kind === 'plain' && value.value === undefined;
      const given = value.kind === 'unknown' || isMissing ? walker.evaluate(pattern.right) : value;
      bind(walker, pattern.left, given, binding);
      return;
    }
    case 'ArrayPattern':
      pattern.elements.forEach((element, i) => {
        if (!element) return;
        const item = value.kind === 'array' ? (value.items[i] ?? UNDEFINED) : UNKNOWN;
        bind(walker, element, item, binding);
      });
      return;
    case 'ObjectPattern':
      for (const property of pattern.properties) {
        if (property.type === 'RestElement') bind(walker, property.argument, UNKNOWN, binding);
        else {
          const name = property.key.type === 'Identifier' ? property.key.name : undefined;
          const item = name === undefined ? UNKNOWN : member(walker, value, name, property);
          bind(walker, property.value, item, binding);
        }
      }
      return;
    case 'RestElement':
      bind(walker, pattern.argument, value.kind === 'array' ? value : UNKNOWN, binding);
  }
}
