import type {
  BlockStatement,
  ClassDeclaration,
  IfStatement,
  ModuleDeclaration,
  Statement,
  TryStatement,
  VariableDeclaration,
} from 'acorn';
import { guardedBy } from './guards.js';
import type { Completion, ScriptReader } from './reader.js';
import { UNDEFINED, UNKNOWN } from './values.js';

/** So many items of a list are gone through. */
const MOST_ITEMS = 20;

/** Follows statements one after the other, until one leaves. */
export function runStatements(
  reader: ScriptReader,
  body: readonly (Statement | ModuleDeclaration)[],
): Completion {
  for (const statement of body) if (runStatement(reader, statement) === 'leaves') return 'leaves';
  return 'goes-on';
}

export function runStatement(reader: ScriptReader, node: Statement | ModuleDeclaration): Completion {
  if (reader.isTired()) return 'leaves';
  switch (node.type) {
    case 'ExpressionStatement':
      reader.eval(node.expression);
      return 'goes-on';
    case 'VariableDeclaration':
      declareVariables(reader, node);
      return 'goes-on';
    case 'ClassDeclaration':
      declareClass(reader, node);
      return 'goes-on';
    case 'BlockStatement':
      return runBlock(reader, node);
    case 'IfStatement':
      return runIf(reader, node);
    case 'TryStatement':
      return runTry(reader, node);
    case 'ReturnStatement':
      reader.giveBack(node.argument ? reader.eval(node.argument) : UNDEFINED);
      return 'leaves';
    case 'ThrowStatement':
      reader.eval(node.argument);
      return 'leaves';
    case 'ForStatement':
      return reader.inScope(() => {
        if (node.init?.type === 'VariableDeclaration') declareVariables(reader, node.init);
        else if (node.init) reader.eval(node.init);
        if (node.test) reader.eval(node.test);
        const end = runStatement(reader, node.body);
        if (node.update) reader.eval(node.update);
        return end === 'leaves' ? 'goes-on' : end;
      });
    case 'ForInStatement':
    case 'ForOfStatement':
      return reader.inScope(() => {
        const over = reader.eval(node.right);
        const items = over.kind === 'array' && node.type === 'ForOfStatement' ? over.items : [UNKNOWN];
        for (const item of items.slice(0, MOST_ITEMS)) {
          if (node.left.type === 'VariableDeclaration') {
            reader.hoistBlock([node.left]);
            reader.bind(node.left.declarations[0]!.id, item, true);
          } else reader.bind(node.left, item, false);
          runStatement(reader, node.body);
        }
        return 'goes-on';
      });
    case 'WhileStatement':
      reader.eval(node.test);
      runStatement(reader, node.body);
      return 'goes-on';
    case 'DoWhileStatement':
      runStatement(reader, node.body);
      reader.eval(node.test);
      return 'goes-on';
    case 'SwitchStatement':
      reader.eval(node.discriminant);
      return reader.inScope(() => {
        reader.hoistBlock(node.cases.flatMap((one) => one.consequent));
        for (const one of node.cases) {
          if (one.test) reader.eval(one.test);
          runStatements(reader, one.consequent);
        }
        return 'goes-on';
      });
    case 'LabeledStatement':
      return runStatement(reader, node.body);
    case 'WithStatement':
      reader.eval(node.object);
      return runStatement(reader, node.body);
    case 'BreakStatement':
    case 'ContinueStatement':
      return 'leaves';
    case 'ImportDeclaration':
      reader.record.loads.push({
        address: typeof node.source.value === 'string' ? node.source.value : '',
        kind: 'script',
        by: 'script',
        mode: 'module',
        when: reader.when,
        noScript: false,
        range: reader.range(node.source),
        sure: 'certain',
      });
      for (const specifier of node.specifiers) reader.scope.declare(specifier.local.name, UNKNOWN);
      return 'goes-on';
    case 'ExportNamedDeclaration':
      return node.declaration ? runStatement(reader, node.declaration) : 'goes-on';
    case 'ExportDefaultDeclaration':
      if (node.declaration.type === 'ClassDeclaration')
        declareClass(reader, node.declaration as ClassDeclaration);
      else if (node.declaration.type !== 'FunctionDeclaration') reader.eval(node.declaration);
      return 'goes-on';
    default:
      return 'goes-on';
  }
}

function runBlock(reader: ScriptReader, node: BlockStatement): Completion {
  return reader.inScope(() => {
    reader.hoistBlock(node.body);
    return runStatements(reader, node.body);
  });
}

function runIf(reader: ScriptReader, node: IfStatement): Completion {
  const test = reader.eval(node.test);
  const known = reader.certainTruth(test);
  if (known === true) return runStatement(reader, node.consequent);
  if (known === false) return node.alternate ? runStatement(reader, node.alternate) : 'goes-on';
  const guards = guardedBy(reader, node.test);
  const then = reader.guarded(guards, () => runStatement(reader, node.consequent));
  const otherwise = node.alternate
    ? reader.guarded(guards, () => runStatement(reader, node.alternate!))
    : 'goes-on';
  if (then === 'leaves' && otherwise === 'leaves') return 'leaves';
  // `if (!x) return;`: what follows runs only with x. The guard stays for the rest of the function.
  if (then === 'leaves') for (const name of guards) reader.guard(name);
  return 'goes-on';
}

function runTry(reader: ScriptReader, node: TryStatement): Completion {
  if (node.handler) reader.tries++;
  const end = runBlock(reader, node.block);
  if (node.handler) reader.tries--;
  if (node.handler) {
    const handler = node.handler;
    reader.inScope(() => {
      if (handler.param) reader.bind(handler.param, UNKNOWN, true);
      return runStatement(reader, handler.body);
    });
  }
  if (node.finalizer) runBlock(reader, node.finalizer);
  return node.handler ? 'goes-on' : end;
}

function declareVariables(reader: ScriptReader, node: VariableDeclaration): void {
  for (const { id, init } of node.declarations) {
    if (!init && node.kind === 'var') continue;
    const value = init ? reader.eval(init) : UNDEFINED;
    reader.bind(id, value, true, node.kind === 'var', init ?? undefined);
  }
}

function declareClass(reader: ScriptReader, node: ClassDeclaration): void {
  reader.bind(node.id, { kind: 'class' }, true);
  runClassBody(reader, node);
}

/** Methods are called by others, later; static parts run at once. */
export function runClassBody(
  reader: ScriptReader,
  node: Pick<ClassDeclaration, 'body' | 'superClass'>,
): void {
  if (node.superClass) reader.eval(node.superClass);
  for (const member of node.body.body) {
    if (member.type === 'StaticBlock') runStatements(reader, member.body);
    else if (member.value) reader.eval(member.value);
  }
}
