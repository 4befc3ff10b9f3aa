import type { Logger } from 'pino';
import type { SiteClient } from '../outgoing/site-client.js';
import type { Readers } from '../reading/readers.js';
import type { Store } from '../storage/store.js';

/** What it takes to walk a site. */
export interface SurveyTools {
  readonly store: Store;
  readonly client: SiteClient;
  readonly readers: Readers;
  readonly log: Logger;
}

/** How we call ourselves, in requests and in robots.txt (RFC 9309, 2.2.1: the product token). */
export const ROBOT_NAME = 'PragmaticaSurvey';
export const USER_AGENT = `${ROBOT_NAME}/1.0`;
