import type { EnvironmentName } from '../../reach/index.js';
import { filledSnapshot, orderedParts, type PlacedPart, type Snapshot } from '../../snapshot/index.js';
import { isSent } from '../one-line/compile.js';
import type { Box } from './box.js';
import { noPlaceWords, placeOf, type Mode, type NoPlace } from './place.js';
import { writeBlock, type PasteBlock } from './write-block.js';

/** A part that no box can take, and what to do about it. */
export interface UnpastedPart extends NoPlace {
  readonly part: string;
  readonly snippet: string;
  readonly name: string;
  readonly message: string;
}

export interface PasteBlocks {
  readonly blocks: readonly PasteBlock[];
  readonly left: readonly UnpastedPart[];
}

export interface PasteOptions {
  readonly environment: EnvironmentName;
  readonly boxes: readonly Box[];
  /** Number of the release, for the marks. */
  readonly release: number;
  /** Paths of the site's known pages: those that need a block of their own are found among them. */
  readonly pages: readonly string[];
  /** Milliseconds since 1970. */
  readonly now: number;
}

/** The texts to paste into the boxes of a site builder: as few as can be, in the order of the set. */
export function pasteBlocks(snapshot: Snapshot, options: PasteOptions): PasteBlocks {
  const { environment, boxes } = options;
  const filled = filledSnapshot(snapshot, environment);
  const drafts = new Map<string, { box: Box; page: string | null; entries: [PlacedPart, Mode][] }>();
  const left: UnpastedPart[] = [];
  for (const placed of orderedParts(filled)) {
    if (!isSent(placed.snippet, filled.site.consent, environment)) continue;
    const place = placeOf(placed, filled, options);
    if ('reason' in place) {
      left.push({
        ...{ part: placed.key, snippet: placed.snippet.key, name: placed.snippet.name },
        ...place,
        message: noPlaceWords(placed, place),
      });
      continue;
    }
    for (const page of place.pages) {
      const key = `${place.box.kind} ${page ?? ''}`;
      const draft = drafts.get(key) ?? { box: place.box, page, entries: [] };
      draft.entries.push([placed, place.mode]);
      drafts.set(key, draft);
    }
  }
  const rank = ({ box, page }: { box: Box; page: string | null }): string =>
    `${boxes.indexOf(box)} ${page ?? ''}`;
  return {
    blocks: [...drafts.values()]
      .sort((a, b) => (rank(a) < rank(b) ? -1 : 1))
      .map((draft) => writeBlock(draft, filled, options)),
    left,
  };
}
