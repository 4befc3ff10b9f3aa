import type { BlockSight, BlockState, PasteBlock, UnpastedPart } from '../deliver/index.js';
import type { InsertOptions } from '../insert/index.js';
import type { PagePlan } from '../plan/index.js';
import { VERIFY_TEXTS } from '../texts/verify.js';
import { say } from '../texts/say.js';
import { countInPage, partDelivery, type DeliveryState, type PartDelivery } from './delivered.js';

/** What a block is like tells of all that is in it. */
const STATES: Readonly<Record<BlockState, DeliveryState>> = {
  right: 'delivered',
  missing: 'missing',
  altered: 'missing',
  outdated: 'missing',
  twice: 'twice',
  needless: 'left-out',
};

/**
 * Whether a page has the parts of its plan in what was pasted.
 *
 * @param path - of the page
 * @param sights - what the page's boxes hold, see `judgeBlocks`
 * @param page - the received bytes, decoded from their content encoding
 */
export function checkPasted(
  plan: PagePlan,
  path: string,
  blocks: readonly Pick<PasteBlock, 'box' | 'page' | 'parts' | 'text'>[],
  left: readonly UnpastedPart[],
  sights: readonly BlockSight[],
  page: Uint8Array,
  options: InsertOptions = {},
): PartDelivery[] {
  return plan.parts.map((part) => {
    const block = blocks.find(
      ({ page: of, parts }) => (of === null || of === path) && parts.some(({ key }) => key === part.key),
    );
    const sight = block && sights.find(({ kind }) => kind === block.box.kind);
    if (!sight) {
      const message = left.find((one) => one.part === part.key)?.message ?? VERIFY_TEXTS.inNoBlock;
      return partDelivery(part, 'missing', message);
    }
    // A block holds the code as it is, or within a guard.
    const inBlock = block.text.includes(part.code) ? 1 : 0;
    if (sight.state === 'right' && countInPage(part, page, options) > inBlock)
      return partDelivery(part, 'twice', VERIFY_TEXTS.blockAndPage);
    const message = sight.state === 'right' ? say(VERIFY_TEXTS.inBlock, { name: sight.name }) : sight.message;
    return partDelivery(part, STATES[sight.state], message);
  });
}
