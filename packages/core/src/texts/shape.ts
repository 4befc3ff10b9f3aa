import { catalogue } from './catalogue.js';

export const SHAPE_TEXTS = catalogue('core.shape', {
  onlyTellsMachines: 'It only tells machines about the page: it runs nothing and shows nothing.',
  onlyHoldsLoads: 'It only holds or loads style rules.',
  namesSpeakConsent: 'Its names speak of consent.',
  namesSpeakAccessibility: 'Its names speak of accessibility.',
  namesSpeakChatting: 'Its names speak of chatting.',
  namesSpeakBooking: 'Its names speak of booking.',
  namesSpeakSomething: 'Its names speak of something that pops up.',
  namesSpeakSharing: 'Its names speak of sharing.',
  startsQueueLoads:
    'It starts a queue, loads one script, and has a frame for browsers without scripts or a start event: so do containers of other tags.',
  frameBrowsersWithout: 'It is a frame for browsers without scripts, the second piece of a container.',
  holdsForm: 'It holds a form.',
  namesSpeakForm: 'Its names speak of a form.',
  namesSpeakAdverts: 'Its names speak of adverts.',
  invisibleImageTells: 'It is an invisible image that tells its maker about the visit.',
  hasInvisibleImage: 'It has an invisible image for browsers without scripts.',
  reportsEventsMaker: 'It reports events to its maker.',
  namesSpeakCounting: 'Its names speak of counting visits.',
  loadsOneScript:
    'It loads one script, and has a frame for browsers without scripts: so do containers of other tags.',
  loadsOneScriptAccount: 'It loads one script with an account and shows nothing of its own.',
  putsBoxOver: 'It puts a box over the page.',
  nothingStructureSays: 'Nothing in its structure says what it is for.',
});
