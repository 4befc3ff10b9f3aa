export const CONTAIN_TEXTS = {
  codeHoldsVisible:
    'This code holds visible content, which cannot stand in the head: the browser would end the head there and move everything after it into the page. Place it in the body, or take the visible content out.',
  codeLeavesSomething:
    'This code leaves something open (a script, a comment, a text element or a quote that never ends), so the browser would swallow the page after it. Copy the code again, completely.',
  codeChangesPage:
    'This code changes the page around it: it closes or opens elements that are not its own. Every tag it opens must be closed inside it, and it must close nothing else.',
  whetherCodeLeaves:
    'Whether this code leaves the page around it alone could not be found out: its tags are nested hundreds of levels deep, or it takes too long to read. Ask its provider for shorter code.',
  nameClosesElement:
    '{name} closes an element of the page around it: there is none in this code that it could close. Take it out, or copy the code again, completely.',
  nameOpenedHere:
    '{name} is opened here and never closed, so everything after it on the page becomes part of it. Close it, or copy the code again, completely.',
  nameVisibleContent:
    '{name} is visible content, which cannot stand in the head: the browser ends the head there, and moves everything after it into the page. Place the code in the body, or take {name} out.',
  codeClosesTemplate:
    'This code closes the template in which it waits, so part of it would run at once. Remove the “</template>” that closes nothing in the code itself, or every “<template>” that is not closed.',
} as const;
