import type {
  Expression,
  FunctionDeclaration,
  ModuleDeclaration,
  Node,
  Pattern,
  Program,
  Statement,
} from 'acorn';
import type { Moment, Range } from '../types.js';
import { isBrowserName } from './browser-names.js';
import { evaluate } from './evaluate.js';
import { setMember } from './members.js';
import type { Record } from './record.js';
import { Scope } from './scope.js';
import { runStatements } from './statements.js';
import { isStub, keepsOld } from './stubs.js';
import { namesOf, varNames } from './syntax-tree.js';
import {
  HOLE,
  UNDEFINED,
  UNKNOWN,
  WINDOW,
  type FunctionNode,
  type FunctionValue,
  type Value,
} from './values.js';

/** So many nodes of a script are looked at, counting those of functions as often as they are called. */
const MOST_STEPS = 1_000_000;
const DEEPEST = 24;

/** How a statement list ended. */
export type Completion = 'goes-on' | 'leaves';

/**
 * Follows a script in the order in which a browser runs it, with values as far as they are written in it. Both sides
 * of a question are followed, loops once; functions when they are called, and those nobody calls at the end.
 */
export class ScriptReader {
  readonly record: Record;
  readonly base: number;
  scope: Scope;
  when: Moment;
  /** Globals that have been asked for before they are used here, and how often. */
  readonly guards = new Map<string, number>();
  tries = 0;
  /** What `this` is. */
  self: Value;
  /** What functions gave back, innermost last. */
  readonly #returned: Value[][] = [];
  readonly #running = new Set<FunctionNode>();
  readonly #seen = new Set<Node>();
  /** Functions that have not been called; their scopes are kept with them. */
  readonly #waiting = new Map<Node, FunctionValue>();
  #steps = 0;
  #isProgram = true;
  readonly #isModule: boolean;

  constructor(record: Record, base: number, when: Moment, isModule: boolean) {
    this.record = record;
    this.base = base;
    this.when = when;
    this.#isModule = isModule;
    this.scope = new Scope(undefined, true);
    this.self = isModule ? UNKNOWN : WINDOW;
  }

  /** The node's place in the pasted text. */
  range(node: Node): Range {
    return { start: node.start + this.base, end: node.end + this.base };
  }

  read(program: Program): void {
    this.#hoist(program.body, true);
    this.#isProgram = true;
    runStatements(this, program.body);
    // What nobody has called may be called by others, or by the page.
    const when = this.when;
    for (let round = 0; round < 4 && this.#waiting.size > 0; round++) {
      const waiting = [...this.#waiting.values()];
      this.#waiting.clear();
      this.when = 'later';
      for (const fn of waiting) this.call(fn, [], UNKNOWN);
    }
    this.when = when;
  }

  /** Whether the script has been followed as far as it is worth. */
  isTired(): boolean {
    return ++this.#steps > MOST_STEPS;
  }

  isAtTopLevel(): boolean {
    return this.#isProgram && !this.#isModule;
  }

  /** What a function gives back. */
  giveBack(value: Value): void {
    this.#returned.at(-1)?.push(value);
  }

  /** Runs something in a block's own scope. */
  inScope(run: () => Completion): Completion {
    const outer = this.scope;
    const wasProgram = this.#isProgram;
    this.scope = new Scope(outer, false);
    this.#isProgram = false;
    const end = run();
    this.scope = outer;
    this.#isProgram = wasProgram;
    return end;
  }

  /** Only what is written decides; what could be otherwise on another page is left open. */
  certainTruth(value: Value): boolean | undefined {
    if (value.kind === 'plain') return Boolean(value.value);
    if (value.kind === 'text' && value.sure === 'certain') return value.text !== '';
    return undefined;
  }

  // Names

  /** Gives a value to a name or a pattern. */
  bind(pattern: Pattern, value: Value, isDeclaration: boolean, isVar = false, from?: Node): void {
    switch (pattern.type) {
      case 'Identifier':
        if (isDeclaration && !isVar) {
          this.scope.set(pattern.name, value);
          if (this.isAtTopLevel()) this.define(pattern.name, value, pattern);
        } else this.assign(pattern.name, value, pattern, from);
        return;
      case 'MemberExpression':
        setMember(this, pattern, value);
        return;
      case 'AssignmentPattern': {
        const isMissing = value.kind === 'plain' && value.value === undefined;
        const given = value.kind === 'unknown' || isMissing ? this.eval(pattern.right) : value;
        this.bind(pattern.left, given, isDeclaration, isVar);
        return;
      }
      case 'ArrayPattern':
        pattern.elements.forEach((element, i) => {
          if (!element) return;
          const item = value.kind === 'array' ? (value.items[i] ?? UNDEFINED) : UNKNOWN;
          this.bind(element, item, isDeclaration, isVar);
        });
        return;
      case 'ObjectPattern':
        for (const property of pattern.properties) {
          if (property.type === 'RestElement') this.bind(property.argument, UNKNOWN, isDeclaration, isVar);
          else {
            const name = property.key.type === 'Identifier' ? property.key.name : undefined;
            const item = name === undefined ? UNKNOWN : this.memberOf(value, name, property);
            this.bind(property.value, item, isDeclaration, isVar);
          }
        }
        return;
      case 'RestElement':
        this.bind(pattern.argument, value.kind === 'array' ? value : UNKNOWN, isDeclaration, isVar);
    }
  }

  /** Replaced by `members.ts`, which needs the reader. */
  memberOf: (value: Value, name: string, node: Node) => Value = () => UNKNOWN;

  assign(name: string, value: Value, node: Node, from?: Node): void {
    const scope = this.scope.find(name);
    if (scope && (scope.parent !== undefined || this.#isModule)) {
      scope.set(name, value);
      return;
    }
    if (scope) scope.set(name, value);
    // A name that nobody has declared becomes a global.
    if (!isBrowserName(name)) this.define(name, value, node, from);
  }

  /** The value of a name. */
  lookUp(name: string, node: Node, isCheck = false): Value {
    const scope = this.scope.find(name);
    if (scope) {
      const value = scope.get(name)!;
      return value;
    }
    const made = this.record.globals.get(name);
    if (made) return made;
    if (isBrowserName(name)) return { kind: 'host', path: name };
    if (!isCheck) this.use(name, node);
    return { kind: 'global', name, path: '' };
  }

  use(name: string, node: Node): void {
    this.record.use({
      name,
      when: this.when,
      isGuarded: this.tries > 0 || (this.guards.get(name) ?? 0) > 0,
      range: this.range(node),
      sure: 'certain',
    });
  }

  /** A global is made. `value` may be one that keeps what is there already. */
  define(name: string, value: Value, node: Node, from?: Node): void {
    if (isBrowserName(name) || name.includes(HOLE)) return;
    const stub = isStub(value) || (from !== undefined && keepsOld(from));
    this.record.define({
      name,
      when: this.when,
      what:
        value.kind === 'function' || value.kind === 'class'
          ? 'function'
          : value.kind === 'object'
            ? 'object'
            : value.kind === 'array'
              ? 'array'
              : 'value',
      isStub: stub,
      range: this.range(node),
      sure: 'certain',
    });
    this.record.globals.set(name, value);
    if (value.kind !== 'object') return;
    const keys = [...value.properties.keys()];
    const isPlain = [...value.properties.values()].every(({ kind }) => kind !== 'function');
    if (keys.length > 0 && isPlain)
      this.record.settings.push({ name, keys, range: value.range, sure: 'certain' });
  }

  // Functions

  eval(node: Expression): Value {
    return this.isTired() ? UNKNOWN : evaluate(this, node);
  }

  /** A function was written; it may never be called. */
  wait(fn: FunctionValue): FunctionValue {
    if (!this.#seen.has(fn.node)) this.#waiting.set(fn.node, fn);
    return fn;
  }

  /** Runs a function at another moment. */
  callLater(value: Value | undefined, args: readonly Value[] = []): void {
    if (value?.kind !== 'function') return;
    const when = this.when;
    this.when = 'later';
    this.call(value, args, UNKNOWN);
    this.when = when;
  }

  /** Runs a function now. @returns what it gives back */
  call(fn: FunctionValue, args: readonly Value[], self: Value): Value {
    const { node } = fn;
    this.#seen.add(node);
    this.#waiting.delete(node);
    if (this.#running.has(node) || this.#running.size > DEEPEST || this.isTired()) return UNKNOWN;
    const { scope, when, self: outerSelf } = this;
    const wasProgram = this.#isProgram;
    const guards = new Map(this.guards);
    const tries = this.tries;
    this.#running.add(node);
    this.scope = new Scope(fn.scope, true);
    this.#isProgram = false;
    if (node.type !== 'ArrowFunctionExpression') {
      this.self = self;
      this.scope.declare('arguments', { kind: 'array', items: [...args], range: this.range(node) });
    }
    if (node.type === 'FunctionExpression' && node.id) this.scope.declare(node.id.name, fn);
    const returned: Value[] = [];
    this.#returned.push(returned);
    node.params.forEach((param, i) => {
      for (const name of namesOf(param)) this.scope.declare(name);
      const rest = { kind: 'array', items: args.slice(i), range: this.range(param) } as const;
      this.bind(param, param.type === 'RestElement' ? rest : (args[i] ?? UNKNOWN), true);
    });
    if (node.body.type === 'BlockStatement') {
      this.#hoist(node.body.body, false);
      runStatements(this, node.body.body);
    } else returned.push(this.eval(node.body));
    this.#returned.pop();
    this.#running.delete(node);
    this.scope = scope;
    this.when = when;
    this.self = outerSelf;
    this.#isProgram = wasProgram;
    this.tries = tries;
    this.guards.clear();
    for (const [name, count] of guards) this.guards.set(name, count);
    return node.async
      ? UNKNOWN
      : (returned.find((value) => value.kind !== 'plain') ?? returned[0] ?? UNDEFINED);
  }

  // Guards

  guard(name: string): void {
    this.guards.set(name, (this.guards.get(name) ?? 0) + 1);
  }

  guarded<T>(names: readonly string[], run: () => T): T {
    for (const name of names) this.guard(name);
    const result = run();
    for (const name of names) this.guards.set(name, this.guards.get(name)! - 1);
    return result;
  }

  // Hoisting (ECMAScript 8.2, VarScopedDeclarations and LexicallyScopedDeclarations)

  #hoist(body: readonly (Statement | ModuleDeclaration)[], isProgram: boolean): void {
    for (const name of varNames(body)) if (!this.scope.has(name)) this.scope.declare(name);
    this.hoistBlock(body, isProgram);
  }

  hoistBlock(body: readonly (Statement | ModuleDeclaration)[], isProgram = false): void {
    for (const statement of body) {
      const node =
        (statement.type === 'ExportNamedDeclaration' || statement.type === 'ExportDefaultDeclaration') &&
        statement.declaration
          ? (statement.declaration as Statement)
          : statement;
      if (node.type === 'VariableDeclaration' && node.kind !== 'var') {
        for (const { id } of node.declarations) for (const name of namesOf(id)) this.scope.declare(name);
      } else if (node.type === 'ClassDeclaration') {
        this.scope.declare((node as { id: { name: string } | null }).id?.name ?? '');
      } else if (node.type === 'FunctionDeclaration') this.#function(node, isProgram);
    }
  }

  #function(node: FunctionDeclaration, isProgram: boolean): void {
    const fn: FunctionValue = { kind: 'function', node, scope: this.scope, properties: new Map() };
    this.wait(fn);
    if (!(node.id as FunctionDeclaration['id'] | null)) return;
    this.scope.declare(node.id.name, fn);
    if (isProgram && !this.#isModule) this.define(node.id.name, fn, node.id);
  }
}
