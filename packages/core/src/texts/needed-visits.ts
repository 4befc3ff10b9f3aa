import { catalogue } from './catalogue.js';

/** Which visits a page needs, and why. */
export const NEEDED_TEXTS = catalogue('core.needed', {
  firstLook: 'A new visitor who does nothing ({on})',
  firstLookBefore: 'Shows what runs before anybody agrees to anything or waits.',
  firstLookAll: 'Nothing here waits for anything, so this shows it all.',
  accepts: 'A new visitor who accepts, stays and looks around ({on})',
  patient: 'A new visitor who stays and looks around ({on})',
  becauseWaiting: 'So that {names} can show.',
  refuses: 'A new visitor who refuses ({on})',
  becauseRefused: '{names} must not run.',
  atMoment: 'A new visitor, {moment} ({on})',
  becauseHours: 'The hours of {names} are different then.',
  standsFor: 'The page represents {count} with the same snippets and the same structure.',
  covers: 'It is there for {names}.',
  weighAll: 'Somebody who agreed before, with every snippet ({on})',
  weighAllWhy: 'What the page costs as it is. It is opened twice, because two equal visits differ by chance.',
  weighBare: 'The same page without any snippet ({on})',
  weighBareWhy: 'What the page costs by itself.',
  weighWithout: 'The same page without “{name}” ({on})',
  weighWithoutWhy: 'What is missing now is what “{name}” costs.',
  returns: 'Somebody who comes back the next day ({on})',
  returnsLater: 'Somebody who comes back the next day, and again {days} days after the first visit ({on})',
  becauseReturning: 'Whether {names} runs depends on whether somebody has been here before.',
});
