import type { Delivery } from './delivery.js';
import { DELIVER_TEXTS } from '../texts/deliver.js';

const t = DELIVER_TEXTS.ways.folder;

/** Files that are written once and then served as they are, the same to everybody. */
export const folder: Delivery = {
  key: 'folder',
  name: DELIVER_TEXTS.folderFiles,
  needs: t.needs,
  decides: {
    environment: 'once',
    devices: 'once',
    hours: 'once',
    consent: 'once',
    visitor: 'in-browser',
  },
  onceWords: DELIVER_TEXTS.filesCannotAsk,
  seesViews: false,
  isLine: false,
  comes: () => 'with-page',
  abilities: {
    head: { fit: 'fully', words: DELIVER_TEXTS.asIfThere },
    'body-start': { fit: 'fully', words: DELIVER_TEXTS.asIfThere },
    'body-end': { fit: 'fully', words: DELIVER_TEXTS.asIfThere },
    anchor: { fit: 'fully', words: DELIVER_TEXTS.elementsInPage },
    reach: { fit: 'partly', words: t.reach },
    views: { fit: 'partly', words: DELIVER_TEXTS.oncePerLoad },
    freshness: { fit: 'partly', words: t.freshness },
    'without-script': { fit: 'fully', words: DELIVER_TEXTS.worksWithoutScript },
    policy: { fit: 'fully', words: DELIVER_TEXTS.ownPolicy },
    cost: { fit: 'fully', words: t.cost },
  },
};
