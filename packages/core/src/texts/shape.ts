import { catalogue } from './catalogue.js';

export const SHAPE_TEXTS = catalogue('core.shape', {
  onlyTellsMachines: 'It is only metadata about the page: it runs nothing and shows nothing.',
  onlyHoldsLoads: 'It only holds or loads style rules.',
  namesSpeakConsent: 'Its names mention consent.',
  namesSpeakAccessibility: 'Its names mention accessibility.',
  namesSpeakChatting: 'Its names mention chatting.',
  namesSpeakBooking: 'Its names mention booking.',
  namesSpeakSomething: 'Its names mention something that pops up.',
  namesSpeakSharing: 'Its names mention sharing.',
  startsQueueLoads:
    'It starts a queue, loads one script, and has a frame for browsers without scripts or a start event: as containers of other tags do.',
  frameBrowsersWithout: 'It is a frame for browsers without scripts, the second piece of a container.',
  holdsForm: 'It holds a form.',
  namesSpeakForm: 'Its names mention a form.',
  namesSpeakAdverts: 'Its names mention adverts.',
  invisibleImageTells: 'It is an invisible image that reports the visit to its provider.',
  hasInvisibleImage: 'It has an invisible image for browsers without scripts.',
  reportsEventsMaker: 'It reports events to its provider.',
  namesSpeakCounting: 'Its names mention counting visits.',
  loadsOneScript:
    'It loads one script, and has a frame for browsers without scripts: as containers of other tags do.',
  loadsOneScriptAccount: 'It loads one script with an account and shows nothing of its own.',
  putsBoxOver: 'It puts a box over the page.',
  nothingStructureSays: 'Nothing in its structure says what it is for.',
});
