import type { Delivery } from './delivery.js';
import { LIKE_THE_PAGE, WITH_PAGE } from './with-page.js';
import { DELIVER_TEXTS } from '../texts/deliver.js';
import { fully, partly } from './ability.js';

const t = DELIVER_TEXTS.ways.folder;

/** Files that are written once and then served as they are, the same to everybody. */
export const folder: Delivery = {
  ...WITH_PAGE,
  key: 'folder',
  get name() {
    return DELIVER_TEXTS.folderFiles;
  },
  get needs() {
    return t.needs;
  },
  followsPublishing: false,
  decides: {
    environment: 'once',
    devices: 'once',
    hours: 'once',
    consent: 'once',
    visitor: 'in-browser',
  },
  get onceWords() {
    return DELIVER_TEXTS.filesCannotAsk;
  },
  abilities: {
    ...LIKE_THE_PAGE,
    reach: partly(() => t.reach),
    freshness: partly(() => t.freshness),
    cost: fully(() => t.cost),
  },
};
