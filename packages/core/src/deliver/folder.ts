import type { Delivery } from './delivery.js';
import { DELIVER_TEXTS } from '../texts/deliver.js';

/** Files that are written once and then served as they are, the same to everybody. */
export const folder: Delivery = {
  key: 'folder',
  name: DELIVER_TEXTS.folderFiles,
  decides: {
    environment: 'once',
    devices: 'once',
    hours: 'once',
    consent: 'once',
    visitor: 'in-browser',
  },
  onceWords: DELIVER_TEXTS.filesCannotAsk,
};
