import { DELIVER_TEXTS } from '../../texts/deliver.js';
import { say } from '../../texts/say.js';
import type { Box, BoxKind } from './box.js';
import { BOX_KINDS } from './box.js';
import type { FoundBlock } from './marks.js';
import type { PasteBlock } from './write-block.js';

export type BlockState = 'right' | 'missing' | 'altered' | 'outdated' | 'twice' | 'needless';

/** What a page holds of a box. */
export interface BlockSight {
  readonly kind: BoxKind;
  /** What the box is called. */
  readonly name: string;
  readonly state: BlockState;
  /** Which release the page holds. */
  readonly release: number | null;
  readonly message: string;
}

/**
 * Holds what a page should have pasted against what it has.
 *
 * @param blocks - of the whole site; those of other pages are left aside
 */
export function judgeBlocks(
  site: string,
  path: string,
  blocks: readonly PasteBlock[],
  boxes: readonly Box[],
  release: number,
  found: readonly FoundBlock[],
): BlockSight[] {
  const wanted = new Map(
    blocks.filter(({ page }) => page === null || page === path).map((block) => [block.box.kind, block]),
  );
  const ours = found.filter((one) => one.site === site);
  const kinds = new Set([...wanted.keys(), ...ours.map(({ box }) => box)]);
  return [...kinds].map((kind) => {
    const name = boxes.find((box) => box.kind === kind)?.name ?? BOX_KINDS[kind].words;
    const there = ours.filter(({ box }) => box === kind);
    const state = stateOf(wanted.get(kind), there);
    const held = there.at(-1)?.release ?? null;
    return {
      ...{ kind, name, state, release: held },
      message: say(DELIVER_TEXTS.sights[state], { name, release: held ?? release, now: release }),
    };
  });
}

function stateOf(wanted: PasteBlock | undefined, there: readonly FoundBlock[]): BlockState {
  if (!wanted) return 'needless';
  if (there.length === 0) return 'missing';
  if (there.length > 1) return 'twice';
  const [one] = there;
  if (one!.state !== 'whole') return 'altered';
  return one!.digest === wanted.digest ? 'right' : 'outdated';
}
