import type { Expression, Node, Program } from 'acorn';
import type { ExecutionPhase, Range } from '../types.js';
import { bind } from './bind.js';
import { evaluate } from './evaluate.js';
import { Guards, type ExecutionContext } from './execution-context.js';
import { hoistBody } from './hoisting.js';
import type { Record } from './record.js';
import { Scope } from './scope.js';
import { runStatements } from './statements.js';
import { namesOf } from './syntax-tree.js';
import { UNDEFINED, UNKNOWN, WINDOW, type FunctionNode, type FunctionValue, type Value } from './values.js';
import type { Completion, Walker } from './walker.js';

/** So many nodes of a script are looked at, counting those of functions as often as they are called. */
const MAX_STEPS = 1_000_000;
const MAX_DEPTH = 24;
/** Functions that nobody calls make functions that nobody calls: so often they are followed. */
const MAX_ROUNDS = 4;

/**
 * Follows a script in the order in which a browser runs it, with values as far as they are written in it. Both sides
 * of a question are followed, loops once; functions when they are called, and those nobody calls at the end.
 */
export class ScriptWalker implements Walker {
  readonly record: Record;
  readonly isModule: boolean;
  readonly #base: number;
  #context: ExecutionContext;
  /** What functions gave back, innermost last. */
  readonly #returned: Value[][] = [];
  readonly #running = new Set<FunctionNode>();
  readonly #called = new Set<Node>();
  /** Functions that have not been called; their scopes are kept with them. */
  readonly #uncalled = new Map<Node, FunctionValue>();
  #steps = 0;

  /** @param base - where the script's first character stands in the pasted text */
  constructor(record: Record, base: number, phase: ExecutionPhase, isModule: boolean) {
    this.record = record;
    this.isModule = isModule;
    this.#base = base;
    this.#context = {
      scope: new Scope(undefined),
      phase,
      thisValue: isModule ? UNKNOWN : WINDOW,
      isTopLevel: !isModule,
      tries: 0,
      guards: new Guards(),
    };
  }

  get context(): ExecutionContext {
    return this.#context;
  }

  range(node: Node): Range {
    return { start: node.start + this.#base, end: node.end + this.#base };
  }

  walk(program: Program): void {
    hoistBody(this, program.body);
    runStatements(this, program.body);
    // What nobody has called may be called by others, or by the page.
    for (let round = 0; round < MAX_ROUNDS && this.#uncalled.size > 0; round++) {
      const uncalled = [...this.#uncalled.values()];
      this.#uncalled.clear();
      for (const fn of uncalled) this.callLater(fn);
    }
  }

  isExhausted(): boolean {
    return ++this.#steps > MAX_STEPS;
  }

  evaluate(node: Expression): Value {
    return evaluate(this, node);
  }

  inBlock(run: () => Completion): Completion {
    const { scope, isTopLevel } = this.#context;
    this.#change({ scope: new Scope(scope), isTopLevel: false });
    const end = run();
    this.#change({ scope, isTopLevel });
    return end;
  }

  inTry<T>(run: () => T): T {
    const { tries } = this.#context;
    this.#change({ tries: tries + 1 });
    const result = run();
    this.#change({ tries });
    return result;
  }

  guarded<T>(names: readonly string[], run: () => T): T {
    const { guards } = this.#context;
    for (const name of names) guards.add(name);
    const result = run();
    for (const name of names) guards.remove(name);
    return result;
  }

  continueLater(): void {
    this.#change({ phase: 'later' });
  }

  giveBack(value: Value): void {
    this.#returned.at(-1)?.push(value);
  }

  created(fn: FunctionValue): FunctionValue {
    if (!this.#called.has(fn.node)) this.#uncalled.set(fn.node, fn);
    return fn;
  }

  callLater(value: Value | undefined, args: readonly Value[] = []): void {
    if (value?.kind !== 'function') return;
    const { phase } = this.#context;
    this.#change({ phase: 'later' });
    this.call(value, args, UNKNOWN);
    this.#change({ phase });
  }

  call(fn: FunctionValue, args: readonly Value[], thisValue: Value): Value {
    const { node } = fn;
    this.#called.add(node);
    this.#uncalled.delete(node);
    if (this.#running.has(node) || this.#running.size > MAX_DEPTH || this.isExhausted()) return UNKNOWN;
    const outer = this.#context;
    const returned: Value[] = [];
    this.#running.add(node);
    this.#returned.push(returned);
    this.#context = {
      ...outer,
      scope: new Scope(fn.scope),
      thisValue: node.type === 'ArrowFunctionExpression' ? outer.thisValue : thisValue,
      isTopLevel: false,
      guards: outer.guards.copy(),
    };
    this.#bindArguments(fn, args);
    if (node.body.type === 'BlockStatement') {
      hoistBody(this, node.body.body);
      runStatements(this, node.body.body);
    } else returned.push(this.evaluate(node.body));
    this.#context = outer;
    this.#returned.pop();
    this.#running.delete(node);
    if (node.async) return UNKNOWN;
    return returned.find((value) => value.kind !== 'plain') ?? returned[0] ?? UNDEFINED;
  }

  #bindArguments(fn: FunctionValue, args: readonly Value[]): void {
    const { node } = fn;
    const { scope } = this.#context;
    if (node.type !== 'ArrowFunctionExpression')
      scope.declare('arguments', { kind: 'array', items: [...args], range: this.range(node) });
    if (node.type === 'FunctionExpression' && node.id) scope.declare(node.id.name, fn);
    node.params.forEach((param, i) => {
      for (const name of namesOf(param)) scope.declare(name, UNDEFINED);
      const rest = { kind: 'array', items: args.slice(i), range: this.range(param) } as const;
      bind(this, param, param.type === 'RestElement' ? rest : (args[i] ?? UNKNOWN), 'lexical');
    });
  }

  #change(changed: Partial<ExecutionContext>): void {
    this.#context = { ...this.#context, ...changed };
  }
}
