import type { Expression, Node, Pattern, Statement, VariableDeclaration } from 'acorn';

type AnyNode = Expression | Statement | Pattern;

/** Every node below, and the node itself. */
export function walk(node: Node, visit: (node: AnyNode) => void): void {
  visit(node as AnyNode);
  for (const key of Object.keys(node)) {
    const value = (node as unknown as { [key: string]: unknown })[key];
    for (const child of Array.isArray(value) ? (value as unknown[]) : [value])
      if (typeof child === 'object' && child !== null && 'type' in child && 'start' in child)
        walk(child as Node, visit);
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
  const visit = (node: Node): void => {
    if (/Function|^Class/.test(node.type)) return;
    if (node.type === 'VariableDeclaration' && (node as VariableDeclaration).kind === 'var')
      for (const { id } of (node as VariableDeclaration).declarations) names.push(...namesOf(id));
    if (/Expression$/.test(node.type)) return;
    for (const key of Object.keys(node)) {
      const value = (node as unknown as { [key: string]: unknown })[key];
      for (const child of Array.isArray(value) ? (value as unknown[]) : [value])
        if (typeof child === 'object' && child !== null && 'type' in child) visit(child as Node);
    }
  };
  body.forEach(visit);
  return names;
}
