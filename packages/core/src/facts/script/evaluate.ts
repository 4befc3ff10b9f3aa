import type {
  AssignmentExpression,
  BinaryExpression,
  CallExpression,
  ClassExpression,
  Expression,
  Identifier,
  LogicalExpression,
  MemberExpression,
  ObjectExpression,
  Property,
  SpreadElement,
  TemplateLiteral,
} from 'acorn';
import { isWindowName } from './browser-names.js';
import { callFunction, makeNew } from './calls.js';
import { guardedBy } from './guards.js';
import { member, memberName, setMember } from './members.js';
import { runClassBody } from './statements.js';
import type { ScriptReader } from './reader.js';
import {
  UNDEFINED,
  UNKNOWN,
  WINDOW,
  asText,
  fewItems,
  joinTexts,
  lessSure,
  text,
  truth,
  type TextValue,
  type Value,
} from './values.js';

/** The value of an expression as far as it is written, and everything that happens on the way. */
export function evaluate(reader: ScriptReader, node: Expression): Value {
  if (reader.isTired()) return UNKNOWN;
  switch (node.type) {
    case 'Literal':
      if (typeof node.value === 'string') return text(node.value);
      if (node.value === null || typeof node.value === 'number' || typeof node.value === 'boolean')
        return node.regex ? UNKNOWN : { kind: 'plain', value: node.value };
      return UNKNOWN;
    case 'TemplateLiteral':
      return template(reader, node);
    case 'Identifier':
      return identifier(reader, node);
    case 'ThisExpression':
      return reader.self;
    case 'MemberExpression':
      return readMember(reader, node);
    case 'ChainExpression':
      return evaluate(reader, node.expression);
    case 'ParenthesizedExpression':
      return evaluate(reader, node.expression);
    case 'CallExpression':
      return call(reader, node);
    case 'NewExpression':
      return makeNew(reader, node, evaluate(reader, node.callee), args(reader, node.arguments));
    case 'ImportExpression': {
      const address = asText(reader.eval(node.source));
      reader.record.loads.push({
        address: address.text,
        kind: 'script',
        by: 'script',
        mode: 'module',
        when: reader.when,
        noScript: false,
        range: reader.range(node),
        sure: address.sure,
      });
      return UNKNOWN;
    }
    case 'FunctionExpression':
    case 'ArrowFunctionExpression':
      return reader.wait({ kind: 'function', node, scope: reader.scope, properties: new Map() });
    case 'ClassExpression':
      return classExpression(reader, node);
    case 'ObjectExpression':
      return object(reader, node);
    case 'ArrayExpression':
      return {
        kind: 'array',
        items: args(
          reader,
          node.elements.filter((element) => element !== null),
        ),
        range: reader.range(node),
      };
    case 'AssignmentExpression':
      return assignment(reader, node);
    case 'LogicalExpression':
      return logical(reader, node);
    case 'ConditionalExpression': {
      const known = reader.certainTruth(evaluate(reader, node.test));
      if (known !== undefined) return evaluate(reader, known ? node.consequent : node.alternate);
      const guards = guardedBy(reader, node.test);
      return reader.guarded(guards, () => {
        const then = evaluate(reader, node.consequent);
        const otherwise = evaluate(reader, node.alternate);
        return unsure(then.kind === 'plain' || then.kind === 'unknown' ? otherwise : then);
      });
    }
    case 'BinaryExpression':
      return binary(reader, node);
    case 'UnaryExpression': {
      if (node.operator === 'typeof') return typeOf(reader, node.argument);
      const value = evaluate(reader, node.argument);
      if (node.operator === 'void') return UNDEFINED;
      if (node.operator !== '!') return numeric(node.operator, value);
      const known = reader.certainTruth(value);
      return known === undefined ? UNKNOWN : { kind: 'plain', value: !known };
    }
    case 'UpdateExpression':
      evaluate(reader, node.argument);
      return UNKNOWN;
    case 'SequenceExpression': {
      let value: Value = UNDEFINED;
      for (const expression of node.expressions) value = evaluate(reader, expression);
      return value;
    }
    case 'TaggedTemplateExpression':
      evaluate(reader, node.tag);
      template(reader, node.quasi);
      return UNKNOWN;
    case 'AwaitExpression':
      evaluate(reader, node.argument);
      // What follows runs when the answer is there; the function's end sets the moment back.
      reader.when = 'later';
      return UNKNOWN;
    case 'YieldExpression':
      if (node.argument) evaluate(reader, node.argument);
      return UNKNOWN;
    default:
      return UNKNOWN;
  }
}

function identifier(reader: ScriptReader, node: Identifier): Value {
  if (isWindowName(node.name) && !reader.scope.find(node.name)) return WINDOW;
  if (node.name === 'undefined') return UNDEFINED;
  return reader.lookUp(node.name, node);
}

/** `typeof x` asks for a name without needing it. */
function typeOf(reader: ScriptReader, argument: Expression): Value {
  const value =
    argument.type === 'Identifier'
      ? reader.lookUp(argument.name, argument, true)
      : evaluate(reader, argument);
  if (value.kind === 'function') return text('function', 'likely');
  return UNKNOWN;
}

function numeric(operator: string, value: Value): Value {
  if (value.kind !== 'plain' || typeof value.value !== 'number') return UNKNOWN;
  return operator === '-' ? { kind: 'plain', value: -value.value } : operator === '+' ? value : UNKNOWN;
}

function template(reader: ScriptReader, node: TemplateLiteral): Value {
  let whole = text('');
  node.quasis.forEach((quasi, i) => {
    whole = joined(whole, text(quasi.value.cooked ?? quasi.value.raw));
    const expression = node.expressions[i];
    if (expression) whole = joined(whole, asText(evaluate(reader, expression)));
  });
  return whole;
}

function joined(a: TextValue, b: TextValue): TextValue {
  return joinTexts([a, b]);
}

/** A chain like `a + b + c` is as deep as it is long: its operands are followed one after the other. */
function binary(reader: ScriptReader, node: BinaryExpression): Value {
  const chain: BinaryExpression[] = [];
  let first: BinaryExpression['left'] = node;
  while (first.type === 'BinaryExpression') {
    chain.push(first);
    first = first.left;
  }
  const innermost = chain.at(-1)!;
  let value = first.type === 'PrivateIdentifier' ? UNKNOWN : side(reader, first, innermost.operator);
  for (const one of chain.reverse())
    value = operate(one.operator, value, side(reader, one.right, one.operator));
  return value;
}

function operate(operator: BinaryExpression['operator'], left: Value, right: Value): Value {
  switch (operator) {
    case '+':
      if (left.kind === 'plain' && right.kind === 'plain') {
        if (typeof left.value === 'number' && typeof right.value === 'number')
          return { kind: 'plain', value: left.value + right.value };
        return UNKNOWN;
      }
      if (left.kind === 'text' || right.kind === 'text') return joined(asText(left), asText(right));
      return UNKNOWN;
    case '*':
      if (left.kind === 'plain' && right.kind === 'plain')
        return { kind: 'plain', value: Number(left.value) * Number(right.value) };
      return UNKNOWN;
    case '==':
    case '===':
    case '!=':
    case '!==': {
      if (left.kind !== 'text' || right.kind !== 'text') return UNKNOWN;
      if (left.sure !== 'certain' || right.sure !== 'certain') return UNKNOWN;
      const same = left.text === right.text;
      return { kind: 'plain', value: operator.startsWith('=') ? same : !same };
    }
    default:
      return UNKNOWN;
  }
}

/** One side of a comparison; asking whether a global is there does not need it. */
function side(reader: ScriptReader, node: Expression, operator: string): Value {
  return operator === 'in' && node.type === 'Identifier' && isWindowName(node.name)
    ? WINDOW
    : evaluate(reader, node);
}

function logical(reader: ScriptReader, node: LogicalExpression): Value {
  const left = evaluate(reader, node.left);
  const known = truth(left);
  const guards = guardedBy(reader, node.left);
  const right = (): Value => reader.guarded(guards, () => evaluate(reader, node.right));
  if (node.operator === '&&') {
    if (known === false && left.kind !== 'text') return left;
    return known === true ? right() : unsure(right());
  }
  // `||` and `??`
  if (known === true && left.kind !== 'host') return left;
  const other = right();
  if (known === false) return other;
  // Something that the page may have brought, or the default.
  return left.kind === 'plain' || other.kind !== 'unknown' ? unsure(other) : left;
}

function unsure(value: Value): Value {
  return value.kind === 'text' ? text(value.text, lessSure(value.sure, 'likely')) : value;
}

function readMember(reader: ScriptReader, node: MemberExpression): Value {
  if (node.object.type === 'Super') return UNKNOWN;
  const owner = evaluate(reader, node.object);
  const name = memberName(reader, node);
  const guards = node.optional ? guardedBy(reader, node.object) : [];
  return reader.guarded(guards, () => member(reader, owner, name, node));
}

function object(reader: ScriptReader, node: ObjectExpression): Value {
  const properties = new Map<string, Value>();
  const self: Value = { kind: 'object', properties, range: reader.range(node) };
  for (const property of node.properties) {
    if (property.type === 'SpreadElement') {
      const spread = evaluate(reader, property.argument);
      if (spread.kind === 'object')
        for (const [name, value] of spread.properties) properties.set(name, value);
      continue;
    }
    const name = propertyName(reader, property);
    const value = evaluate(reader, property.value);
    if (name !== undefined && property.kind === 'init') properties.set(name, value);
  }
  return self;
}

function propertyName(reader: ScriptReader, property: Property): string | undefined {
  const { key } = property;
  if (property.computed) {
    const value = evaluate(reader, key);
    return value.kind === 'text' ? value.text : undefined;
  }
  if (key.type === 'Identifier') return key.name;
  return key.type === 'Literal' ? String(key.value) : undefined;
}

function classExpression(reader: ScriptReader, node: ClassExpression): Value {
  runClassBody(reader, node);
  return { kind: 'class' };
}

function assignment(reader: ScriptReader, node: AssignmentExpression): Value {
  const { left, operator } = node;
  if (operator === '=') {
    const value = evaluate(reader, node.right);
    if (left.type === 'Identifier') reader.assign(left.name, value, left, node.right);
    else if (left.type === 'MemberExpression') setMember(reader, left, value, node.right);
    else reader.bind(left, value, false);
    return value;
  }
  const isLogical = operator === '||=' || operator === '&&=' || operator === '??=';
  const guards = isLogical ? guardedBy(reader, left as Expression) : [];
  const old = reader.guarded(guards, () => evaluate(reader, left as Expression));
  const given = evaluate(reader, node.right);
  const value =
    operator === '+=' && (old.kind === 'text' || given.kind === 'text')
      ? joined(asText(old), asText(given))
      : isLogical
        ? given
        : UNKNOWN;
  if (left.type === 'Identifier') reader.assign(left.name, value, left, node);
  else if (left.type === 'MemberExpression') setMember(reader, left, value, node);
  return value;
}

/** Arguments or items; what is spread is spread where it is known. */
export function args(reader: ScriptReader, nodes: readonly (Expression | SpreadElement)[]): Value[] {
  const values = nodes.flatMap((node) => {
    if (node.type !== 'SpreadElement') return [evaluate(reader, node)];
    const value = evaluate(reader, node.argument);
    return value.kind === 'array' ? value.items : [UNKNOWN];
  });
  return fewItems(values);
}

function call(reader: ScriptReader, node: CallExpression): Value {
  const { callee } = node;
  if (callee.type === 'Super') {
    args(reader, node.arguments);
    return UNKNOWN;
  }
  if (callee.type === 'MemberExpression' && callee.object.type !== 'Super') {
    const owner = evaluate(reader, callee.object);
    const name = memberName(reader, callee);
    const guards = callee.optional || node.optional ? guardedBy(reader, callee) : [];
    return reader.guarded(guards, () => {
      const fn = member(reader, owner, name, callee, true);
      return callFunction(reader, node, fn, args(reader, node.arguments), owner, name);
    });
  }
  const isChecked = node.optional && callee.type === 'Identifier';
  const fn = isChecked
    ? reader.guarded([callee.name], () => evaluate(reader, callee))
    : evaluate(reader, callee);
  return callFunction(reader, node, fn, args(reader, node.arguments), UNKNOWN, undefined);
}
