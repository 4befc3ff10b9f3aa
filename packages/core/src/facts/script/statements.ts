import type {
  BlockStatement,
  ClassDeclaration,
  IfStatement,
  ModuleDeclaration,
  Statement,
  TryStatement,
  VariableDeclaration,
} from 'acorn';
import { bind } from './bind.js';
import { guardedBy } from './guards.js';
import { hoistBlock } from './hoisting.js';
import type { Completion, Walker } from './walker.js';
import { UNDEFINED, UNKNOWN, certainTruth } from './values.js';

/** So many items of a list are gone through. */
const MAX_ITEMS = 20;

/** Follows statements one after the other, until one leaves. */
export function runStatements(walker: Walker, body: readonly (Statement | ModuleDeclaration)[]): Completion {
  for (const statement of body) if (runStatement(walker, statement) === 'leaves') return 'leaves';
  return 'goes-on';
}

export function runStatement(walker: Walker, node: Statement | ModuleDeclaration): Completion {
  if (walker.isExhausted()) return 'leaves';
  switch (node.type) {
    case 'ExpressionStatement':
      walker.evaluate(node.expression);
      return 'goes-on';
    case 'VariableDeclaration':
      declareVariables(walker, node);
      return 'goes-on';
    case 'ClassDeclaration':
      declareClass(walker, node);
      return 'goes-on';
    case 'BlockStatement':
      return runBlock(walker, node);
    case 'IfStatement':
      return runIf(walker, node);
    case 'TryStatement':
      return runTry(walker, node);
    case 'ReturnStatement':
      walker.giveBack(node.argument ? walker.evaluate(node.argument) : UNDEFINED);
      return 'leaves';
    case 'ThrowStatement':
      walker.evaluate(node.argument);
      return 'leaves';
    case 'ForStatement':
      return walker.inBlock(() => {
        if (node.init?.type === 'VariableDeclaration') declareVariables(walker, node.init);
        else if (node.init) walker.evaluate(node.init);
        if (node.test) walker.evaluate(node.test);
        const end = runStatement(walker, node.body);
        if (node.update) walker.evaluate(node.update);
        return end === 'leaves' ? 'goes-on' : end;
      });
    case 'ForInStatement':
    case 'ForOfStatement':
      return walker.inBlock(() => {
        const over = walker.evaluate(node.right);
        const items = over.kind === 'array' && node.type === 'ForOfStatement' ? over.items : [UNKNOWN];
        for (const item of items.slice(0, MAX_ITEMS)) {
          if (node.left.type === 'VariableDeclaration') {
            hoistBlock(walker, [node.left]);
            bind(walker, node.left.declarations[0]!.id, item, 'lexical');
          } else bind(walker, node.left, item, 'assignment');
          runStatement(walker, node.body);
        }
        return 'goes-on';
      });
    case 'WhileStatement':
      walker.evaluate(node.test);
      runStatement(walker, node.body);
      return 'goes-on';
    case 'DoWhileStatement':
      runStatement(walker, node.body);
      walker.evaluate(node.test);
      return 'goes-on';
    case 'SwitchStatement':
      walker.evaluate(node.discriminant);
      return walker.inBlock(() => {
        hoistBlock(
          walker,
          node.cases.flatMap((one) => one.consequent),
        );
        for (const one of node.cases) {
          if (one.test) walker.evaluate(one.test);
          runStatements(walker, one.consequent);
        }
        return 'goes-on';
      });
    case 'LabeledStatement':
      return runStatement(walker, node.body);
    case 'WithStatement':
      walker.evaluate(node.object);
      return runStatement(walker, node.body);
    case 'BreakStatement':
    case 'ContinueStatement':
      return 'leaves';
    case 'ImportDeclaration':
      walker.record.loads.push({
        address: typeof node.source.value === 'string' ? node.source.value : '',
        kind: 'script',
        by: 'script',
        mode: 'module',
        when: walker.context.phase,
        noScript: false,
        range: walker.range(node.source),
        confidence: 'certain',
      });
      for (const specifier of node.specifiers) walker.context.scope.declare(specifier.local.name, UNKNOWN);
      return 'goes-on';
    case 'ExportNamedDeclaration':
      return node.declaration ? runStatement(walker, node.declaration) : 'goes-on';
    case 'ExportDefaultDeclaration':
      if (node.declaration.type === 'ClassDeclaration')
        declareClass(walker, node.declaration as ClassDeclaration);
      else if (node.declaration.type !== 'FunctionDeclaration') walker.evaluate(node.declaration);
      return 'goes-on';
    default:
      return 'goes-on';
  }
}

function runBlock(walker: Walker, node: BlockStatement): Completion {
  return walker.inBlock(() => {
    hoistBlock(walker, node.body);
    return runStatements(walker, node.body);
  });
}

function runIf(walker: Walker, node: IfStatement): Completion {
  const test = walker.evaluate(node.test);
  const known = certainTruth(test);
  if (known === true) return runStatement(walker, node.consequent);
  if (known === false) return node.alternate ? runStatement(walker, node.alternate) : 'goes-on';
  const guards = guardedBy(walker, node.test);
  const then = walker.guarded(guards, () => runStatement(walker, node.consequent));
  const otherwise = node.alternate
    ? walker.guarded(guards, () => runStatement(walker, node.alternate!))
    : 'goes-on';
  if (then === 'leaves' && otherwise === 'leaves') return 'leaves';
  // `if (!x) return;`: what follows runs only with x. The guard stays for the rest of the function.
  if (then === 'leaves') for (const name of guards) walker.context.guards.add(name);
  return 'goes-on';
}

function runTry(walker: Walker, node: TryStatement): Completion {
  const run = (): Completion => runBlock(walker, node.block);
  const end = node.handler ? walker.inTry(run) : run();
  if (node.handler) {
    const handler = node.handler;
    walker.inBlock(() => {
      if (handler.param) bind(walker, handler.param, UNKNOWN, 'lexical');
      return runStatement(walker, handler.body);
    });
  }
  if (node.finalizer) runBlock(walker, node.finalizer);
  return node.handler ? 'goes-on' : end;
}

function declareVariables(walker: Walker, node: VariableDeclaration): void {
  for (const { id, init } of node.declarations) {
    if (!init && node.kind === 'var') continue;
    const value = init ? walker.evaluate(init) : UNDEFINED;
    bind(walker, id, value, node.kind === 'var' ? 'var' : 'lexical', init ?? undefined);
  }
}

function declareClass(walker: Walker, node: ClassDeclaration): void {
  bind(walker, node.id, { kind: 'class' }, 'lexical');
  runClassBody(walker, node);
}

/** Methods are called by others, later; static parts run at once. */
export function runClassBody(walker: Walker, node: Pick<ClassDeclaration, 'body' | 'superClass'>): void {
  if (node.superClass) walker.evaluate(node.superClass);
  for (const member of node.body.body) {
    if (member.type === 'StaticBlock') runStatements(walker, member.body);
    else if (member.value) walker.evaluate(member.value);
  }
}
