import { DELIVER_TEXTS } from '../../texts/deliver.js';

/** What a box of a site builder is for. One more is one more entry here. */
export const BOX_KINDS = {
  'site-head': {
    get words() {
      return DELIVER_TEXTS.boxSiteHead;
    },
    region: 'head',
    isForAll: true,
  },
  'site-foot': {
    get words() {
      return DELIVER_TEXTS.boxSiteFoot;
    },
    region: 'body',
    isForAll: true,
  },
  'page-head': {
    get words() {
      return DELIVER_TEXTS.boxPageHead;
    },
    region: 'head',
    isForAll: false,
  },
  'page-content': {
    get words() {
      return DELIVER_TEXTS.boxPageContent;
    },
    region: 'body',
    isForAll: false,
  },
} as const satisfies Readonly<Record<string, { words: string; region: 'head' | 'body'; isForAll: boolean }>>;

export type BoxKind = keyof typeof BOX_KINDS;
export const BOX_KEYS = Object.keys(BOX_KINDS) as [BoxKind, ...BoxKind[]];

/** A box into which a site builder lets its owner paste code; at most one of each kind. */
export interface Box {
  readonly kind: BoxKind;
  /** What it is called there, in the owner's words. */
  readonly name: string;
  /** Characters that it takes. */
  readonly maxLength?: number;
  readonly stripsScripts?: boolean;
  readonly stripsComments?: boolean;
}
