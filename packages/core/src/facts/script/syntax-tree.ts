import type { Expression, Node, Pattern, Statement, VariableDeclaration } from 'acorn';
import { childNodes } from '../../bounds/parse-script.js';

type AnyNode = Expression | Statement | Pattern;

/** Every node below, and the node itself. */
export function walk(node: Node, visit: (node: AnyNode) => void): void {
  const waiting: Node[] = [node];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    visit(next as AnyNode);
    waiting.push(...[...childNodes(next)].reverse());
  }
}

/** The names that a pattern gives values to. */
export function namesOf(pattern: Pattern): string[] {
  switch (pattern.type) {
    case 'Identifier':
      return [pattern.name];
    case 'ObjectPattern':
      return pattern.properties.flatMap((property) =>
        namesOf(property.type === 'RestElement' ? property.argument : property.value),
      );
    case 'ArrayPattern':
      return pattern.elements.flatMap((element) => (element ? namesOf(element) : []));
    case 'AssignmentPattern':
      return namesOf(pattern.left);
    case 'RestElement':
      return namesOf(pattern.argument);
    default:
      return [];
  }
}

/** Names declared with `var` anywhere in a function's own statements. */
export function varNames(body: readonly Node[]): string[] {
  const names: string[] = [];
  const waiting = [...body].reverse();
  for (let node = waiting.pop(); node; node = waiting.pop()) {
    if (/Function|^Class/.test(node.type)) continue;
    if (node.type === 'VariableDeclaration' && (node as VariableDeclaration).kind === 'var')
      for (const { id } of (node as VariableDeclaration).declarations) names.push(...namesOf(id));
    if (!/Expression$/.test(node.type)) waiting.push(...[...childNodes(node)].reverse());
  }
  return names;
}
