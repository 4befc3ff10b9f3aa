/** The parts of css-tree without its dictionary of properties, which is most of its size; its types name only the whole. */
declare module 'css-tree/parser' {
  import type { parse } from 'css-tree';
  const parser: typeof parse;
  export default parser;
}

declare module 'css-tree/generator' {
  import type { generate } from 'css-tree';
  const generator: typeof generate;
  export default generator;
}

declare module 'css-tree/tokenizer' {
  export { tokenize } from 'css-tree';
}
