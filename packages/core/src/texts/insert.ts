import { catalogue } from './catalogue.js';

export const INSERT_TEXTS = catalogue('core.insert', {
  places: {
    'head-start': {
      words: 'at the start of the head',
      title: 'Start of the head',
      providersSay: 'as high in the head as possible',
    },
    'head-end': {
      words: 'at the end of the head',
      title: 'End of the head',
      providersSay: 'just before the head closes',
    },
    'body-start': {
      words: 'at the start of the body',
      title: 'Start of the body',
      providersSay: 'right after the body opens',
    },
    'body-end': {
      words: 'at the end of the body',
      title: 'End of the body',
      providersSay: 'just above the closing body tag',
    },
  },
  sides: {
    before: 'before the element {element}',
    inside: 'inside the element {element}',
    'inside-end': 'at the end of the element {element}',
    after: 'after the element {element}',
  },
  pageFramesetHas: 'The page is a frameset and has no body, so nothing can be placed in one.',
  pageHasNo: 'The page does not have this element.',
  elementIdCannot:
    'Code on this side of the element would change the page around it: the element frames the whole page, cannot have content, holds only text, is part of a table or a drawing, or is not closed in order. Choose another side or another element.',
  selectorTooLong: 'A selector may have 500 characters and 16 elements at most.',
  selectorList: 'Name one element: a list of selectors, with a comma, is not possible here.',
  selectorUnreadable: 'This is not a selector. Examples: #booking, .sidebar, main > p:nth-of-type(2).',
  selectorUnsupported:
    '“{what}” cannot be used here, because it is not known yet when the element goes by. Use a name, an id, a class, an attribute, :nth-child(2) or :nth-of-type(2), and spaces or > between them.',
  selectorOfNoType: 'Write the element’s name before :nth-of-type, for example p:nth-of-type(2).',
  pageBreaksOff:
    'The page breaks off in the middle of a tag, comment, script or text element; anything after that point would be swallowed or would run by accident.',
  placePageHas: 'At this place the page has a template left open; code inside a template does not run.',
  placePageHasDrawing:
    'At this place the page has a drawing (svg) or a formula (math) left open; code there would become part of it.',
  pageSCharacter:
    'The page’s character encoding lacks characters that the code uses, and they cannot be written in another way there.',
  pageDeclaresCharacter:
    'The page declares its character encoding so late that the code would push the declaration out of the first 1,024 bytes, where browsers look for it. Move the declaration to the start of the head.',
  pageDoesNot:
    'The page does not say where its body begins, and nothing in the first 256 KB of it shows that it has one.',
  pageTooLong: 'The page is too long, or nests its elements too deeply, to be read to this place safely.',
  standsRightAfter:
    'It is right after the page’s character encoding declaration instead of before it: the declaration must stay in the page’s first 1,024 bytes.',
});
