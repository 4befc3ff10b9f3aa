import { catalogue } from './catalogue.js';

/** How two things on the screen would not meet. */
export const OVERLAP_TEXTS = catalogue('core.overlap', {
  waitForBanner: 'Have “{other}” wait until the visitor has answered “{banner}”.',
  otherCorner: 'Move “{name}” to the {corner}: that corner is free.',
  notOnPhones: 'Switch “{name}” off on phones: no corner is free there.',
  oneAtATime: 'Have “{name}” wait, or exclude this page: no corner is free.',
  bottomRight: 'bottom right',
  bottomLeft: 'bottom left',
  topRight: 'top right',
  topLeft: 'top left',
});
