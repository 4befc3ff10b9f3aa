import { catalogue } from './catalogue.js';

export const CONTAIN_TEXTS = catalogue('core.contain', {
  codeHoldsVisible:
    'This code has visible content, which cannot go in the head: browsers end the head there and move everything after it into the body. Place it in the body, or remove the visible content.',
  codeLeavesSomething:
    'This code leaves something unclosed (a script, a comment, a text element or a quote), so browsers would swallow the page after it. Check that the end was copied too, and close what is open.',
  codeChangesPage:
    'Its opening and closing tags do not match, so it opens or closes elements of the page. Compare it with the provider’s page, and close every tag it opens and nothing else.',
  whetherCodeLeaves:
    'This code is too deeply nested, or takes too long to read, to tell whether it leaves the rest of the page alone. Ask its provider for shorter code.',
  nameClosesElement:
    '{name} closes an element of the page, because nothing in this code is open there. Remove it, or check whether the start of the code was copied.',
  nameOpenedHere:
    '{name} is opened here and never closed, so everything after it on the page becomes part of it. Close it, or check whether the end of the code was copied.',
  nameVisibleContent:
    '{name} is visible content, which cannot go in the head: browsers end the head there and move everything after it into the body. Place the code in the body, or remove {name}.',
  codeClosesTemplate:
    'This code closes the template it waits in, so part of it would run too early. Remove the stray “</template>”, or close every “<template>” that is open.',
});
