/** What no parameter's name holds: such a brace is quoted, or one of several branches. */
type NotAName = ' ' | '#' | "'" | '{' | '.' | '“';

type Name<Text extends string> = Text extends `${string}${NotAName}${string}` | '' ? never : Text;

type NameIn<Inside extends string> = Inside extends `${infer Before},${string}` ? Name<Before> : Name<Inside>;

/** What stands in front of a branch of a plural. */
type BranchStart = `${string}${', ' | '} '}${'one ' | 'other ' | '=0 ' | '=1 ' | '=2 '}`;

/**
 * The parameters of a pattern (ICU MessageFormat), read off the pattern itself. Branches of a selection other than
 * `other` that are one word would be taken for one, and do not compile.
 */
export type NamesIn<Pattern extends string> = Pattern extends `${infer Before}{${infer Rest}`
  ? | (Before extends BranchStart ? never : Rest extends `${infer Inside}}${string}` ? NameIn<Inside> : never)
    | NamesIn<Rest>
  : never;
