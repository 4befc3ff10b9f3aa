import {
  PLACEMENTS,
  isAnchor,
  placementWords,
  type NamedPlacement,
  type PageRules,
  type Placement,
} from '@pragmatica/core';
import { CornerDownRight } from 'lucide-react';
import { RadioGroup } from 'radix-ui';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import { ElementPicker } from '../place/element-picker';
import { SNIPPET } from '../../texts/snippet';
import { say } from '../../texts/say';

type Choice = NamedPlacement | 'anchor';

function titleOf(choice: Choice): string {
  if (choice === 'anchor') return SNIPPET.element;
  return PLACEMENTS[choice].title;
}

function providersSay(choice: Choice): string {
  return choice === 'anchor' ? SNIPPET.whereYouWant : PLACEMENTS[choice].providersSay;
}

/** A small page on which the place is chosen; the words below are those that providers use. */
export function PlacementPicker({
  placement,
  suggested,
  because,
  site,
  code,
  pages,
  onChange,
}: {
  placement: Placement;
  /** Where it is best, and why; undefined while there is no code. */
  suggested: NamedPlacement | undefined;
  because: string | undefined;
  site: string;
  code: string;
  pages: PageRules;
  onChange: (placement: Placement) => void;
}) {
  const chosen = isAnchor(placement) ? 'anchor' : placement;
  return (
    <fieldset className="space-y-3">
      <legend className="mb-1.5 text-sm font-medium">{SNIPPET.whereDoesGo}</legend>
      <RadioGroup.Root
        value={chosen}
        onValueChange={(value) =>
          onChange(value === 'anchor' ? { anchor: '', side: 'inside' } : (value as NamedPlacement))
        }
        className="overflow-hidden rounded-lg border border-line-strong"
      >
        <div className="bg-head-soft p-2">
          <Place value="head-start" chosen={chosen} suggested={suggested} />
          <Own width="w-1/2" />
          <Place value="head-end" chosen={chosen} suggested={suggested} />
        </div>
        <div className="bg-body-soft p-2">
          <Place value="body-start" chosen={chosen} suggested={suggested} />
          <Own width="w-4/5" />
          <Place value="anchor" chosen={chosen} suggested={suggested} />
          <Own width="w-2/3" />
          <Place value="body-end" chosen={chosen} suggested={suggested} />
        </div>
      </RadioGroup.Root>
      {suggested !== undefined && (
        <p className="text-[13px]">
          {chosen === suggested
            ? SNIPPET.bestHere
            : say(SNIPPET.bestPlacement, { placement: placementWords(suggested) })}
          {because}
        </p>
      )}
      {suggested !== undefined && chosen !== suggested && (
        <Button size="small" look="primary" onClick={() => onChange(suggested)}>
          <CornerDownRight className="size-3.5" aria-hidden /> {SNIPPET.placeThere}
        </Button>
      )}
      <p className="text-[13px] text-muted">
        {say(SNIPPET.providersSayProviderssay, { providersSay: providersSay(chosen) })}
      </p>
      {isAnchor(placement) && (
        <ElementPicker site={site} code={code} pages={pages} placement={placement} onChange={onChange} />
      )}
    </fieldset>
  );
}

function Place({
  value,
  chosen,
  suggested,
}: {
  value: Choice;
  chosen: string;
  suggested: string | undefined;
}) {
  return (
    <RadioGroup.Item
      value={value}
      className={cn(
        'block w-full rounded border border-dashed border-line-strong bg-surface/70 px-2 py-1 text-left text-[13px]',
        chosen === value
          ? 'border-solid border-primary bg-primary font-medium text-primary-ink'
          : 'hover:border-primary',
      )}
    >
      {titleOf(value)}
      {suggested === value && chosen !== value && <span className="text-primary"> {SNIPPET.best}</span>}
    </RadioGroup.Item>
  );
}

function Own({ width }: { width: string }) {
  return <div aria-hidden className={cn('my-2 h-1.5 rounded-full bg-line-strong/60', width)} />;
}
