import type { FunctionDeclaration, ModuleDeclaration, Node, Statement } from 'acorn';
import { defineGlobal } from './globals.js';
import { namesOf, varNames } from './syntax-tree.js';
import { UNDEFINED, type FunctionValue } from './values.js';
import type { Walker } from './walker.js';

type Body = readonly (Statement | ModuleDeclaration)[];

/** Declares the names of a function's body, or of a program (ECMAScript 8.2.7, VarScopedDeclarations, and below). */
export function hoistBody(walker: Walker, body: Body): void {
  const { scope } = walker.context;
  for (const name of varNames(body)) if (!scope.has(name)) scope.declare(name, UNDEFINED);
  hoistBlock(walker, body);
}

/** Declares the names of a block (ECMAScript 8.2.6, LexicallyScopedDeclarations). */
export function hoistBlock(walker: Walker, body: Body): void {
  const { scope } = walker.context;
  for (const statement of body) {
    const node = exported(statement);
    if (node.type === 'VariableDeclaration' && node.kind !== 'var') {
      for (const { id } of node.declarations) for (const name of namesOf(id)) scope.declare(name, UNDEFINED);
    } else if (node.type === 'ClassDeclaration') {
      scope.declare((node as { id: { name: string } | null }).id?.name ?? '', UNDEFINED);
    } else if (node.type === 'FunctionDeclaration') hoistFunction(walker, node);
  }
}

function exported(statement: Statement | ModuleDeclaration): Statement | ModuleDeclaration {
  const isExport =
    statement.type === 'ExportNamedDeclaration' || statement.type === 'ExportDefaultDeclaration';
  return isExport && statement.declaration ? (statement.declaration as Node as Statement) : statement;
}

function hoistFunction(walker: Walker, node: FunctionDeclaration): void {
  const { scope, isTopLevel } = walker.context;
  const fn: FunctionValue = { kind: 'function', node, scope, properties: new Map() };
  walker.created(fn);
  // `export default function () {}` has no name.
  if (!(node.id as FunctionDeclaration['id'] | null)) return;
  scope.declare(node.id.name, fn);
  if (isTopLevel) defineGlobal(walker, node.id.name, fn, node.id);
}
