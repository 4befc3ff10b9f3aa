import { readRegexp, type RegexpNode } from './regexp.js';
import { PatternError, tokenize, type Token, type TokenType } from './tokens.js';
import { REACH_TEXTS } from '../../texts/reach.js';
import { say } from '../../texts/say.js';

export type Modifier = '' | '?' | '*' | '+';

export type PatternPart =
  | { readonly kind: 'text'; readonly value: string; readonly modifier: Modifier }
  | {
      readonly kind: 'segment' | 'anything';
      readonly prefix: string;
      readonly suffix: string;
      readonly modifier: Modifier;
    }
  | {
      readonly kind: 'regexp';
      readonly regexp: RegexpNode;
      readonly prefix: string;
      readonly suffix: string;
      readonly modifier: Modifier;
    };

/** How patterns of a URL component are read. */
export interface Component {
  readonly name: 'hostname' | 'pathname' | 'search';
  /** A name stops before it. */
  readonly delimiter: string;
  /** Goes with a name that it stands before, as the slash with ":page?". */
  readonly prefix: string;
  /** Text as a URL holds it. */
  readonly encode: (text: string) => string;
}

/**
 * The parts of a pattern of one URL component (URLPattern Standard, 2.1.3, "parse a pattern string").
 *
 * @throws PatternError
 */
export function parsePattern(pattern: string, component: Component): PatternPart[] {
  return new Parser(tokenize(pattern), component).parse();
}

class Parser {
  readonly #tokens: readonly Token[];
  readonly #component: Component;
  readonly #parts: PatternPart[] = [];
  readonly #names = new Set<string>();
  #pending = '';
  #index = 0;
  #nextName = 0;

  constructor(tokens: readonly Token[], component: Component) {
    this.#tokens = tokens;
    this.#component = component;
  }

  parse(): PatternPart[] {
    while (this.#index < this.#tokens.length) {
      const char = this.#take('char');
      const name = this.#take('name');
      const matcher = this.#regexpOrWildcard(name);
      if (name || matcher) {
        let prefix = char?.value ?? '';
        if (prefix !== '' && prefix !== this.#component.prefix) {
          this.#pending += prefix;
          prefix = '';
        }
        this.#addPending();
        this.#add(prefix, name, matcher, '', this.#modifier());
        continue;
      }
      const fixed = char ?? this.#take('escaped-char');
      if (fixed) {
        this.#pending += fixed.value;
        continue;
      }
      if (this.#take('open')) {
        const prefix = this.#text();
        const inner = this.#take('name');
        const innerMatcher = this.#regexpOrWildcard(inner);
        const suffix = this.#text();
        if (!this.#take('close')) this.#refuse();
        this.#add(prefix, inner, innerMatcher, suffix, this.#modifier());
        continue;
      }
      this.#addPending();
      if (!this.#take('end')) this.#refuse();
    }
    return this.#parts;
  }

  #take(type: TokenType): Token | undefined {
    const token = this.#tokens[this.#index];
    if (token?.type !== type) return undefined;
    this.#index++;
    return token;
  }

  #regexpOrWildcard(name: Token | undefined): Token | undefined {
    return this.#take('regexp') ?? (name ? undefined : this.#take('asterisk'));
  }

  #modifier(): Modifier {
    return ((this.#take('other-modifier') ?? this.#take('asterisk'))?.value as Modifier | undefined) ?? '';
  }

  #text(): string {
    let text = '';
    for (;;) {
      const token = this.#take('char') ?? this.#take('escaped-char');
      if (!token) return text;
      text += token.value;
    }
  }

  #addPending(): void {
    if (this.#pending === '') return;
    this.#parts.push({ kind: 'text', value: this.#component.encode(this.#pending), modifier: '' });
    this.#pending = '';
  }

  #add(
    prefix: string,
    name: Token | undefined,
    matcher: Token | undefined,
    suffix: string,
    modifier: Modifier,
  ): void {
    if (!name && !matcher && modifier === '') {
      this.#pending += prefix;
      return;
    }
    this.#addPending();
    const { encode } = this.#component;
    if (!name && !matcher) {
      if (prefix !== '') this.#parts.push({ kind: 'text', value: encode(prefix), modifier });
      return;
    }
    const segment = `[^${this.#component.delimiter === '' ? '' : `\\${this.#component.delimiter}`}]+?`;
    const source = !matcher ? segment : matcher.type === 'asterisk' ? '.*' : matcher.value;
    const key = name?.value ?? String(this.#nextName++);
    if (this.#names.has(key)) throw new PatternError(say(REACH_TEXTS.nameKeyThere, { key }));
    this.#names.add(key);
    const around = { prefix: encode(prefix), suffix: encode(suffix), modifier };
    if (source === segment) this.#parts.push({ kind: 'segment', ...around });
    else if (source === '.*') this.#parts.push({ kind: 'anything', ...around });
    else this.#parts.push({ kind: 'regexp', regexp: readRegexp(source), ...around });
  }

  #refuse(): never {
    const { type, value } = this.#tokens[this.#index]!;
    throw new PatternError(
      type === 'end' ? REACH_TEXTS.curlyBracketOpened : say(REACH_TEXTS.valueCannotStand, { value }),
    );
  }
}
