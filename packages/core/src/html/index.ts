export { attributePlaces } from './attribute-places.js';
export { parsePage } from './page-parser.js';
export { attributeOf, isElement, isText, pageTree, textOf } from './page-tree.js';
