export {
  chooseSelector,
  placeOnPages,
  type ElementToName,
  type NamedElement,
  type PageText,
} from './choose-selector.js';
export { ELEMENT_MARK, markElements, unmarkElements } from './mark-elements.js';
