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
import { bind } from './bind.js';
import { callFunction, makeNew } from './calls.js';
import { assignName, lookUp } from './globals.js';
import { guardedBy } from './guards.js';
import { member, memberName, setMember } from './members.js';
import { runClassBody } from './statements.js';
import type { Walker } from './walker.js';
import {
  UNDEFINED,
  UNKNOWN,
  WINDOW,
  asText,
  certainTruth,
  fewItems,
  joinTexts,
  lessConfident,
  text,
  truth,
  type TextValue,
  type Value,
} from './values.js';

/** The value of an expression as far as it is written, and everything that happens on the way. */
export function evaluate(walker: Walker, node: Expression): Value {
  if (walker.isExhausted()) return UNKNOWN;
  switch (node.type) {
    case 'Literal':
      if (typeof node.value === 'string') return text(node.value);
      if (node.value === null || typeof node.value === 'number' || typeof node.value === 'boolean')
        return node.regex ? UNKNOWN : { kind: 'plain', value: node.value };
      return UNKNOWN;
    case 'TemplateLiteral':
      return template(walker, node);
    case 'Identifier':
      return identifier(walker, node);
    case 'ThisExpression':
      return walker.context.thisValue;
    case 'MemberExpression':
      return readMember(walker, node);
    case 'ChainExpression':
      return evaluate(walker, node.expression);
    case 'ParenthesizedExpression':
      return evaluate(walker, node.expression);
    case 'CallExpression':
      return call(walker, node);
    case 'NewExpression':
      return makeNew(walker, node, evaluate(walker, node.callee), args(walker, node.arguments));
    case 'ImportExpression': {
      const address = asText(walker.evaluate(node.source));
      walker.record.loads.push({
        address: address.text,
        kind: 'script',
        by: 'script',
        mode: 'module',
        when: walker.context.phase,
        noScript: false,
        range: walker.range(node),
        confidence: address.confidence,
      });
      return UNKNOWN;
    }
    case 'FunctionExpression':
    case 'ArrowFunctionExpression':
      return walker.created({ kind: 'function', node, scope: walker.context.scope, properties: new Map() });
    case 'ClassExpression':
      return classExpression(walker, node);
    case 'ObjectExpression':
      return object(walker, node);
    case 'ArrayExpression':
      return {
        kind: 'array',
        items: args(
          walker,
          node.elements.filter((element) => element !== null),
        ),
        range: walker.range(node),
      };
    case 'AssignmentExpression':
      return assignment(walker, node);
    case 'LogicalExpression':
      return logical(walker, node);
    case 'ConditionalExpression': {
      const known = certainTruth(evaluate(walker, node.test));
      if (known !== undefined) return evaluate(walker, known ? node.consequent : node.alternate);
      const guards = guardedBy(walker, node.test);
      return walker.guarded(guards, () => {
        const then = evaluate(walker, node.consequent);
        const otherwise = evaluate(walker, node.alternate);
        return unsure(then.kind === 'plain' || then.kind === 'unknown' ? otherwise : then);
      });
    }
    case 'BinaryExpression':
      return binary(walker, node);
    case 'UnaryExpression': {
      if (node.operator === 'typeof') return typeOf(walker, node.argument);
      const value = evaluate(walker, node.argument);
      if (node.operator === 'void') return UNDEFINED;
      if (node.operator !== '!') return numeric(node.operator, value);
      const known = certainTruth(value);
      return known === undefined ? UNKNOWN : { kind: 'plain', value: !known };
    }
    case 'UpdateExpression':
      evaluate(walker, node.argument);
      return UNKNOWN;
    case 'SequenceExpression': {
      let value: Value = UNDEFINED;
      for (const expression of node.expressions) value = evaluate(walker, expression);
      return value;
    }
    case 'TaggedTemplateExpression':
      evaluate(walker, node.tag);
      template(walker, node.quasi);
      return UNKNOWN;
    case 'AwaitExpression':
      evaluate(walker, node.argument);
      // What follows runs when the answer is there; the function's end sets the moment back.
      walker.continueLater();
      return UNKNOWN;
    case 'YieldExpression':
      if (node.argument) evaluate(walker, node.argument);
      return UNKNOWN;
    default:
      return UNKNOWN;
  }
}

function identifier(walker: Walker, node: Identifier): Value {
  if (isWindowName(node.name) && !walker.context.scope.find(node.name)) return WINDOW;
  if (node.name === 'undefined') return UNDEFINED;
  return lookUp(walker, node.name, node);
}

/** `typeof x` asks for a name without needing it. */
function typeOf(walker: Walker, argument: Expression): Value {
  const value =
    argument.type === 'Identifier'
      ? lookUp(walker, argument.name, argument, true)
      : evaluate(walker, argument);
  if (value.kind === 'function') return text('function', 'likely');
  return UNKNOWN;
}

function numeric(operator: string, value: Value): Value {
  if (value.kind !== 'plain' || typeof value.value !== 'number') return UNKNOWN;
  return operator === '-' ? { kind: 'plain', value: -value.value } : operator === '+' ? value : UNKNOWN;
}

function template(walker: Walker, node: TemplateLiteral): Value {
  let whole = text('');
  node.quasis.forEach((quasi, i) => {
    whole = joined(whole, text(quasi.value.cooked ?? quasi.value.raw));
    const expression = node.expressions[i];
    if (expression) whole = joined(whole, asText(evaluate(walker, expression)));
  });
  return whole;
}

function joined(a: TextValue, b: TextValue): TextValue {
  return joinTexts([a, b]);
}

/** A chain like `a + b + c` is as deep as it is long: its operands are followed one after the other. */
function binary(walker: Walker, node: BinaryExpression): Value {
  const chain: BinaryExpression[] = [];
  let first: BinaryExpression['left'] = node;
  while (first.type === 'BinaryExpression') {
    chain.push(first);
    first = first.left;
  }
  const innermost = chain.at(-1)!;
  let value = first.type === 'PrivateIdentifier' ? UNKNOWN : side(walker, first, innermost.operator);
  for (const one of chain.reverse())
    value = operate(one.operator, value, side(walker, one.right, one.operator));
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
      if (left.confidence !== 'certain' || right.confidence !== 'certain') return UNKNOWN;
      const same = left.text === right.text;
      return { kind: 'plain', value: operator.startsWith('=') ? same : !same };
    }
    default:
      return UNKNOWN;
  }
}

/** One side of a comparison; asking whether a global is there does not need it. */
function side(walker: Walker, node: Expression, operator: string): Value {
  return operator === 'in' && node.type === 'Identifier' && isWindowName(node.name)
    ? WINDOW
    : evaluate(walker, node);
}

function logical(walker: Walker, node: LogicalExpression): Value {
  const left = evaluate(walker, node.left);
  const known = truth(left);
  const guards = guardedBy(walker, node.left);
  const right = (): Value => walker.guarded(guards, () => evaluate(walker, node.right));
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
  return value.kind === 'text' ? text(value.text, lessConfident(value.confidence, 'likely')) : value;
}

function readMember(walker: Walker, node: MemberExpression): Value {
  if (node.object.type === 'Super') return UNKNOWN;
  const owner = evaluate(walker, node.object);
  const name = memberName(walker, node);
  const guards = node.optional ? guardedBy(walker, node.object) : [];
  return walker.guarded(guards, () => member(walker, owner, name, node));
}

function object(walker: Walker, node: ObjectExpression): Value {
  const properties = new Map<string, Value>();
  const self: Value = { kind: 'object', properties, range: walker.range(node) };
  for (const property of node.properties) {
    if (property.type === 'SpreadElement') {
      const spread = evaluate(walker, property.argument);
      if (spread.kind === 'object')
        for (const [name, value] of spread.properties) properties.set(name, value);
      continue;
    }
    const name = propertyName(walker, property);
    const value = evaluate(walker, property.value);
    if (name !== undefined && property.kind === 'init') properties.set(name, value);
  }
  return self;
}

function propertyName(walker: Walker, property: Property): string | undefined {
  const { key } = property;
  if (property.computed) {
    const value = evaluate(walker, key);
    return value.kind === 'text' ? value.text : undefined;
  }
  if (key.type === 'Identifier') return key.name;
  return key.type === 'Literal' ? String(key.value) : undefined;
}

function classExpression(walker: Walker, node: ClassExpression): Value {
  runClassBody(walker, node);
  return { kind: 'class' };
}

function assignment(walker: Walker, node: AssignmentExpression): Value {
  const { left, operator } = node;
  if (operator === '=') {
    const value = evaluate(walker, node.right);
    if (left.type === 'Identifier') assignName(walker, left.name, value, left, node.right);
    else if (left.type === 'MemberExpression') setMember(walker, left, value, node.right);
    else bind(walker, left, value, 'assignment');
    return value;
  }
  const isLogical = operator === '||=' || operator === '&&=' || operator === '??=';
  const guards = isLogical ? guardedBy(walker, left as Expression) : [];
  const old = walker.guarded(guards, () => evaluate(walker, left as Expression));
  const given = evaluate(walker, node.right);
  const value =
    operator === '+=' && (old.kind === 'text' || given.kind === 'text')
      ? joined(asText(old), asText(given))
      : isLogical
        ? given
        : UNKNOWN;
  if (left.type === 'Identifier') assignName(walker, left.name, value, left, node);
  else if (left.type === 'MemberExpression') setMember(walker, left, value, node);
  return value;
}

/** Arguments or items; what is spread is spread where it is known. */
export function args(walker: Walker, nodes: readonly (Expression | SpreadElement)[]): Value[] {
  const values = nodes.flatMap((node) => {
    if (node.type !== 'SpreadElement') return [evaluate(walker, node)];
    const value = evaluate(walker, node.argument);
    return value.kind === 'array' ? value.items : [UNKNOWN];
  });
  return fewItems(values);
}

function call(walker: Walker, node: CallExpression): Value {
  const { callee } = node;
  if (callee.type === 'Super') {
    args(walker, node.arguments);
    return UNKNOWN;
  }
  if (callee.type === 'MemberExpression' && callee.object.type !== 'Super') {
    const owner = evaluate(walker, callee.object);
    const name = memberName(walker, callee);
    const guards = callee.optional || node.optional ? guardedBy(walker, callee) : [];
    return walker.guarded(guards, () => {
      const fn = member(walker, owner, name, callee, true);
      return callFunction(walker, node, fn, args(walker, node.arguments), owner, name);
    });
  }
  const isChecked = node.optional && callee.type === 'Identifier';
  const fn = isChecked
    ? walker.guarded([callee.name], () => evaluate(walker, callee))
    : evaluate(walker, callee);
  return callFunction(walker, node, fn, args(walker, node.arguments), UNKNOWN, undefined);
}
