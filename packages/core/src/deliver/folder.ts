import type { Delivery } from './delivery.js';
import { LIKE_THE_PAGE, WITH_PAGE } from './with-page.js';
import { DELIVER_TEXTS } from '../texts/deliver.js';

const t = DELIVER_TEXTS.ways.folder;

/** Files that are written once and then served as they are, the same to everybody. */
export const folder: Delivery = {
  ...WITH_PAGE,
  key: 'folder',
  name: DELIVER_TEXTS.folderFiles,
  needs: t.needs,
  followsPublishing: false,
  decides: {
    environment: 'once',
    devices: 'once',
    hours: 'once',
    consent: 'once',
    visitor: 'in-browser',
  },
  onceWords: DELIVER_TEXTS.filesCannotAsk,
  abilities: {
    ...LIKE_THE_PAGE,
    reach: { fit: 'partly', words: t.reach },
    freshness: { fit: 'partly', words: t.freshness },
    cost: { fit: 'fully', words: t.cost },
  },
};
