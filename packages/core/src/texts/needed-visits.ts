/** Which visits a page needs, and why. */
export const NEEDED_TEXTS = {
  firstLook: 'A new visitor who does nothing ({on})',
  firstLookBefore: 'Shows what runs before anybody agrees to anything or waits.',
  firstLookAll: 'Nothing here waits for anything, so this shows it all.',
  accepts: 'A new visitor who accepts, stays and looks around ({on})',
  patient: 'A new visitor who stays and looks around ({on})',
  becauseWaiting: 'So that {names} can come.',
  refuses: 'A new visitor who refuses ({on})',
  becauseRefused: '{names} must not come.',
  atMoment: 'A new visitor, {moment} ({on})',
  becauseHours: 'The hours of {names} are otherwise then.',
  standsFor: 'The page stands for {count} with the same snippets and the same build.',
  covers: 'It is there for {names}.',
  returns: 'Somebody who comes back the next day ({on})',
  becauseReturning: 'What comes of {names} depends on whether somebody has been here before.',
} as const;
