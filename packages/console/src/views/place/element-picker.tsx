import {
  SelectorError,
  anchorName,
  parseSelector,
  readAnchor,
  type AnchorPlacement,
  type AnchorSide,
  type PageRules,
} from '@pragmatica/core';
import { useMutation } from '@tanstack/react-query';
import { MousePointerClick } from 'lucide-react';
import { useState } from 'react';
import { checkPlace } from '../../api/place';
import { PLACE } from '../../texts/place';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { Field, FormError } from '../../ui/field';
import { PlaceDialog } from './place-dialog';
import { SideChoice } from './side-choice';

interface ElementPickerProps {
  readonly site: string;
  readonly code: string;
  readonly pages: PageRules;
  readonly placement: AnchorPlacement;
  readonly onChange: (placement: AnchorPlacement) => void;
}

const NAMED_PAGES = 3;

/** An element of the page, typed or clicked on, and the side of it. */
export function ElementPicker({ site, code, pages, placement, onChange }: ElementPickerProps) {
  const [isPicking, setPicking] = useState(false);
  const check = useMutation({
    mutationFn: () =>
      checkPlace(site, {
        placement,
        ...(code.trim() === '' ? {} : { code }),
        pages: { include: [...pages.include], exclude: [...pages.exclude] },
      }),
  });
  const typed = typedName(placement);
  const fault = faultOf(placement);
  const change = (next: AnchorPlacement): void => {
    check.reset();
    onChange(next);
  };
  return (
    <div className="space-y-3">
      <Button look={typed === '' ? 'primary' : 'plain'} size="small" onClick={() => setPicking(true)}>
        <MousePointerClick className="size-3.5" aria-hidden /> {PLACE.pick}
      </Button>
      <Field
        label={PLACE.element}
        hint={PLACE.elementHint}
        required
        placeholder={PLACE.example}
        error={typed === '' ? undefined : fault}
        value={typed}
        onChange={(event) => change(placementOf(event.target.value, placement.side))}
      />
      <div>
        <p className="mb-1.5 text-sm font-medium">{PLACE.side}</p>
        <SideChoice side={placement.side} onChange={(side) => change({ ...placement, side })} />
      </div>
      {typed !== '' && fault === undefined && (
        <div className="space-y-1.5" aria-live="polite">
          <Button size="small" isBusy={check.isPending} onClick={() => check.mutate()}>
            {PLACE.check}
          </Button>
          {check.data && <p className="text-[13px] text-muted">{checkWords(check.data.pages)}</p>}
          <FormError error={check.error} />
        </div>
      )}
      <PlaceDialog
        site={site}
        code={code}
        pages={pages}
        side={placement.side}
        isOpen={isPicking}
        onOpenChange={setPicking}
        onChoose={change}
      />
    </div>
  );
}

/** As somebody types it: an id without its sign. */
function typedName(placement: AnchorPlacement): string {
  return 'anchor' in placement ? placement.anchor : anchorName(placement);
}

/** What cannot be read yet stays as it is typed. */
function placementOf(text: string, side: AnchorSide): AnchorPlacement {
  try {
    const read = readAnchor(text, side);
    // While somebody types, a selector is not put in order under the cursor.
    return 'anchor' in read && !text.startsWith('#') ? read : { selector: text, side };
  } catch {
    return { selector: text, side };
  }
}

function faultOf(placement: AnchorPlacement): string | undefined {
  if ('anchor' in placement) return undefined;
  try {
    parseSelector(placement.selector);
    return undefined;
  } catch (error) {
    if (error instanceof SelectorError) return error.message;
    throw error;
  }
}

function checkWords(pages: readonly { readonly path: string; readonly message: string | null }[]): string {
  if (pages.length === 0) return PLACE.noPages;
  const missing = pages.filter(({ message }) => message !== null).map(({ path }) => path);
  if (missing.length === 0) return say(PLACE.onAll, { count: pages.length });
  return say(PLACE.onSome, {
    with: pages.length - missing.length,
    count: pages.length,
    missing: missing.slice(0, NAMED_PAGES),
    more: Math.max(0, missing.length - NAMED_PAGES),
  });
}
