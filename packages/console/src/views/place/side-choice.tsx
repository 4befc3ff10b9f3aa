import { ANCHOR_SIDES, type AnchorSide } from '@pragmatica/core';
import { RadioGroup } from 'radix-ui';
import { PLACE } from '../../texts/place';

/** At which side of an element code stands. */
export function SideChoice({ side, onChange }: { side: AnchorSide; onChange: (side: AnchorSide) => void }) {
  return (
    <RadioGroup.Root
      value={side}
      onValueChange={(next) => onChange(next as AnchorSide)}
      className="space-y-1.5 text-sm"
      aria-label={PLACE.side}
    >
      {ANCHOR_SIDES.map((one) => (
        <label key={one} className="flex items-center gap-1.5">
          <RadioGroup.Item
            value={one}
            className="grid size-4 shrink-0 place-items-center rounded-full border border-line-strong bg-raised"
          >
            <RadioGroup.Indicator className="size-2 rounded-full bg-primary" />
          </RadioGroup.Item>
          {PLACE.sides[one]}
        </label>
      ))}
    </RadioGroup.Root>
  );
}
