import {
  ELEMENT_MARK,
  barePage,
  compileLine,
  decodePage,
  filledSnapshot,
  lineName,
  orderedParts,
  releaseFile,
  type DeliveryKey,
  type Snapshot,
} from '@pragmatica/core';
import type { VisitOrder } from '@pragmatica/visitor';
import type { Host, Site } from '../storage/rows.js';
import type { PictureQuestion } from '../storage/visit-rounds.js';
import type { VisitTools } from './visiting.js';

const BY_LINE: readonly DeliveryKey[] = ['line', 'async-line'];

/** Where a picture is taken. */
interface PictureGround {
  readonly site: Pick<Site, 'key'>;
  readonly host: Host;
  /** What is served. */
  readonly snapshot: Snapshot;
}

/** Pages as they are without the snippets, their elements numbered for the picture; or with a part in them. */
export function picturedPages(
  { site, host, snapshot }: PictureGround,
  { part }: PictureQuestion,
  { readers }: Pick<VisitTools, 'readers'>,
): Pick<VisitOrder, 'rewrite' | 'rewriteAlso' | 'boxesOf'> {
  const { environment, delivery } = host;
  const placed = orderedParts(filledSnapshot(snapshot, environment));
  const name = lineName(site.key, environment);
  const line = releaseFile(name, compileLine(snapshot, environment));
  const empty = releaseFile(name, compileLine({ ...snapshot, snippets: [] }, environment)).text;
  const isByLine = BY_LINE.includes(delivery);
  return {
    boxesOf: ELEMENT_MARK,
    ...(isByLine ? { rewriteAlso: [`*/${line.path}`] } : {}),
    async rewrite({ isPage, url, body, contentType, headers }) {
      if (!isPage) return url.endsWith(line.path) ? empty : undefined;
      if (!/html/i.test(contentType)) return undefined;
      const { text } = decodePage(body, contentType);
      const html = barePage(text, site.key, placed, headers);
      return readers.run('markPage', { html, part });
    },
  };
}
