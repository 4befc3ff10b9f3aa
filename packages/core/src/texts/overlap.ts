/** How two things on the screen would not meet. */
export const OVERLAP_TEXTS = {
  waitForBanner: 'Let “{other}” wait until the visitor has answered “{banner}”.',
  otherCorner: 'Move “{name}” to the {corner}: that corner is free.',
  notOnPhones: 'Leave “{name}” out on phones: no corner is free there.',
  oneAtATime: 'Let “{name}” wait, or leave it out here: no corner is free.',
  bottomRight: 'bottom right',
  bottomLeft: 'bottom left',
  topRight: 'top right',
  topLeft: 'top left',
} as const;
