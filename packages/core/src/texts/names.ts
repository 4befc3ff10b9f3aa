/** What no parameter's name holds: such a brace is quoted, or a branch of a plural. */
type NotAName = ' ' | '#' | "'" | '{' | '.' | '“';

type Name<Text extends string> = Text extends `${string}${NotAName}${string}` | '' ? never : Text;

type NameIn<Inside extends string> = Inside extends `${infer Before},${string}` ? Name<Before> : Name<Inside>;

/**
 * The parameters of a pattern (ICU MessageFormat), read off the pattern itself. A branch of a plural or of a selection
 * that is one word would be taken for one, and does not compile.
 */
export type NamesIn<Pattern extends string> = Pattern extends `${string}{${infer Rest}`
  ? (Rest extends `${infer Inside}}${string}` ? NameIn<Inside> : never) | NamesIn<Rest>
  : never;
