import { ANCHOR_SIDES, type AnchorSide } from '@pragmatica/core';
import { PLACE } from '../../texts/place';
import { RadioList } from '../../ui/radio-list';

/** At which side of an element code stands. */
export function SideChoice({ side, onChange }: { side: AnchorSide; onChange: (side: AnchorSide) => void }) {
  const options = ANCHOR_SIDES.map((value) => ({ value, text: PLACE.sides[value] }));
  return <RadioList label={PLACE.side} options={options} value={side} onChange={onChange} />;
}
