export const INSERT_TEXTS = {
  pageFramesetHas: 'The page is a frameset and has no body, so nothing can be placed in one.',
  pageHasNo: 'The page has no element with this id.',
  elementIdCannot:
    'The element with this id cannot hold code or have code before it (it is the page’s own frame, a void element, plain text or a drawing).',
  pageBreaksOff:
    'The page breaks off in the middle of a tag, comment, script or text element; anything after that point would be swallowed or would run by accident.',
  placePageHas: 'At this place the page has a template left open; code inside a template does not run.',
  placePageHasDrawing:
    'At this place the page has a drawing (svg) or a formula (math) left open; code there would become part of it.',
  pageSCharacter:
    'The page’s character encoding lacks characters that the code uses, and they cannot be written in another way where they stand.',
  pageDeclaresCharacter:
    'The page declares its character encoding so late that the code would push the declaration out of the first 1,024 bytes, where browsers look for it. Move the declaration to the start of the head.',
  pageDoesNot:
    'The page does not say where its body begins, and nothing in the first 256 KB of it shows that it has one.',
  pageTooLong: 'The page is too long, or nests its elements too deeply, to be read to this place safely.',
  standsRightAfter:
    'It stands right after the page’s character encoding declaration instead of before it: the declaration must stay in the page’s first 1,024 bytes.',
} as const;
