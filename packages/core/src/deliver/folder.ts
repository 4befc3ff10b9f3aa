import type { Delivery } from './delivery.js';

/** Files that are written once and then served as they are, the same to everybody. */
export const folder: Delivery = {
  key: 'folder',
  name: 'a folder of files',
  decides: {
    environment: 'once',
    devices: 'once',
    hours: 'once',
    consent: 'once',
    visitor: 'in-browser',
  },
  onceWords: 'Files cannot ask: it was decided for now, a desktop and no consent.',
};
