import { Parser, type Node, type Options, type Program } from 'acorn';
import { TooMuchError } from './too-much.js';

/**
 * Levels of nesting, in brackets, functions and statements. The parser calls itself for each, about ten frames a level;
 * at four times this depth an engine's stack is at its end, and compiling one more pattern there ends the process.
 */
const MAX_DEPTH = 256;
/** Levels that cost the parser a frame or two, not ten. */
const STATEMENT = 0.5;
const UNARY = 0.25;
const OPERATOR = 0.2;

type Method = (...args: unknown[]) => Node;

/** The parser's own methods, which its types do not name; see "Plugin developments" in acorn's README. */
interface Internals {
  parseMaybeAssign: Method;
  parseStatement: Method;
  parseMaybeUnary: Method;
  parseExprOp: Method;
  parseBindingAtom: Method;
}

const BoundedParser = Parser.extend((Base) => {
  const base = (Base as unknown as { prototype: Internals }).prototype;
  class Bounded extends (Base as unknown as new (...args: unknown[]) => object) {
    #depth = 0;

    #deeper(cost: number, method: Method, args: unknown[]): Node {
      this.#depth += cost;
      if (this.#depth > MAX_DEPTH) throw new TooMuchError('nesting');
      const node = method.apply(this, args);
      this.#depth -= cost;
      return node;
    }

    parseMaybeAssign(...args: unknown[]): Node {
      return this.#deeper(1, base.parseMaybeAssign, args);
    }

    parseStatement(...args: unknown[]): Node {
      return this.#deeper(STATEMENT, base.parseStatement, args);
    }

    parseBindingAtom(...args: unknown[]): Node {
      return this.#deeper(1, base.parseBindingAtom, args);
    }

    parseMaybeUnary(...args: unknown[]): Node {
      return this.#deeper(UNARY, base.parseMaybeUnary, args);
    }

    parseExprOp(...args: unknown[]): Node {
      return this.#deeper(OPERATOR, base.parseExprOp, args);
    }
  }
  return Bounded as unknown as typeof Parser;
});

/** Trees of members and calls, `a.b.c()`, grow to the left without the parser calling itself. */
const MAX_TREE_DEPTH = 1_000;

/**
 * Parses a script of the newest ECMAScript, with its nesting bounded, so that neither this parser nor whoever walks the
 * tree runs out of stack.
 *
 * @throws TooMuchError for what is nested too deep
 * @throws SyntaxError, with `pos`, for what is no script
 */
export function parseBounded(code: string, options: Partial<Options>): Program {
  const program = BoundedParser.parse(code, { ecmaVersion: 'latest', ...options });
  assertShallow(program);
  return program;
}

/** @throws TooMuchError. Without calling itself. */
function assertShallow(program: Program): void {
  const waiting: { readonly node: Node; readonly depth: number }[] = [{ node: program, depth: 0 }];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const { node, depth } = next;
    if (depth > MAX_TREE_DEPTH) throw new TooMuchError('nesting');
    for (const child of childNodes(node)) {
      // A chain of one operator is followed from operand to operand, not by going down.
      const isChain = node.type === 'BinaryExpression' && child.type === 'BinaryExpression';
      waiting.push({ node: child, depth: isChain ? depth : depth + 1 });
    }
  }
}

/** The nodes right below a node, in no order to rely on. */
export function* childNodes(node: Node): Generator<Node> {
  for (const value of Object.values(node) as unknown[])
    for (const child of Array.isArray(value) ? (value as unknown[]) : [value])
      if (typeof child === 'object' && child !== null && 'type' in child && 'start' in child)
        yield child as Node;
}
