import { readAnchor, type AnchorPlacement, type AnchorSide, type PageRules } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { Maximize2, Minimize2 } from 'lucide-react';
import { useState } from 'react';
import { nameElement } from '../../api/place';
import { PLACE } from '../../texts/place';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { FormError } from '../../ui/field';
import { firstPage } from '../snippet/first-page';
import type { ElementBox } from './boxes';
import { NameChoice } from './name-choice';
import { PictureFrame } from './picture-frame';
import { PlacePicture } from './place-picture';
import { PlaceResult } from './place-result';
import { ShownPageForm, type ShownPage } from './shown-page';
import { SideChoice } from './side-choice';
import { usePicture } from './use-picture';

interface PlaceDialogProps {
  readonly site: string;
  readonly code: string;
  /** Pages on which the snippet runs: the element is named so that it is found on as many of them as can be. */
  readonly pages: PageRules;
  readonly side: AnchorSide;
  readonly isOpen: boolean;
  readonly onOpenChange: (isOpen: boolean) => void;
  readonly onChoose: (placement: AnchorPlacement) => void;
}

/** A picture of a page on which somebody clicks where the code belongs. */
export function PlaceDialog(props: PlaceDialogProps) {
  return (
    <Dialog
      title={PLACE.title}
      description={PLACE.intro}
      isWide
      isOpen={props.isOpen}
      onOpenChange={props.onOpenChange}
    >
      <Picking {...props} />
    </Dialog>
  );
}

function Picking({ site, code, pages, side: first, onOpenChange, onChoose }: PlaceDialogProps) {
  const [shown, setShown] = useState<ShownPage>({ path: firstPage(pages), device: 'desktop' });
  const [side, setSide] = useState(first);
  const [under, setUnder] = useState<readonly ElementBox[]>([]);
  const [level, setLevel] = useState(0);
  const [selector, setSelector] = useState<string>();
  const [isResult, setResult] = useState(false);
  const picturing = usePicture(site, shown);
  const element = under[level];
  const picture = picturing.state === 'there' ? picturing.picture : undefined;
  const naming = useQuery({
    queryKey: ['site', site, 'element-names', picture?.round, element?.element, side, code, pages],
    queryFn: () =>
      nameElement(site, picture!.round, {
        element: element!.element,
        side,
        ...(code.trim() === '' ? {} : { code }),
        pages: { include: [...pages.include], exclude: [...pages.exclude] },
      }),
    enabled: picture !== undefined && element !== undefined,
    staleTime: Infinity,
    retry: false,
  });
  const choices = naming.data?.choices ?? [];
  const chosen = choices.find((one) => one.selector === selector) ?? choices[0];
  const placement = chosen && readAnchor(chosen.selector, side);
  const look = (next: ShownPage): void => {
    setShown(next);
    setUnder([]);
    setResult(false);
  };
  const pick = (elements: readonly ElementBox[], at: number): void => {
    setUnder(elements);
    setLevel(at);
    setSelector(undefined);
  };
  return (
    <div className="space-y-4">
      <ShownPageForm site={site} shown={shown} onShow={look} />
      <div className="grid gap-5 md:grid-cols-[minmax(0,1fr)_17rem]">
        <div className="max-h-[58vh] overflow-auto rounded-lg border border-line-strong bg-raised">
          {isResult && placement ? (
            <PlaceResult site={site} shown={shown} code={code} placement={placement} />
          ) : (
            <PictureFrame path={shown.path} picturing={picturing}>
              {(there) => (
                <PlacePicture
                  site={site}
                  path={shown.path}
                  picture={there}
                  chosen={element ? [element] : []}
                  onPick={(elements) => pick(elements, 0)}
                />
              )}
            </PictureFrame>
          )}
        </div>
        <div className="space-y-4" aria-live="polite">
          <div>
            <p className="mb-1.5 text-sm font-medium">{PLACE.side}</p>
            <SideChoice side={side} onChange={setSide} />
          </div>
          {!element && <p className="text-sm text-muted">{PLACE.nothingYet}</p>}
          {element && !isResult && (
            <div className="flex flex-wrap gap-2">
              <Button
                size="small"
                disabled={level + 1 >= under.length}
                onClick={() => pick(under, level + 1)}
              >
                <Maximize2 className="size-3.5" aria-hidden /> {PLACE.larger}
              </Button>
              <Button size="small" disabled={level === 0} onClick={() => pick(under, level - 1)}>
                <Minimize2 className="size-3.5" aria-hidden /> {PLACE.smaller}
              </Button>
            </div>
          )}
          {naming.isFetching && <p className="text-sm text-muted">{PLACE.naming}</p>}
          {naming.data && (
            <NameChoice names={naming.data} chosen={chosen?.selector ?? ''} onChoose={setSelector} />
          )}
          <FormError error={naming.error} />
          {placement && code.trim() !== '' && (
            <Button size="small" onClick={() => setResult(!isResult)}>
              {isResult ? PLACE.back : PLACE.result}
            </Button>
          )}
        </div>
      </div>
      <DialogActions leave={PLACE.leave}>
        <Button
          look="primary"
          disabled={!placement}
          onClick={() => {
            onChoose(placement!);
            onOpenChange(false);
          }}
        >
          {PLACE.use}
        </Button>
      </DialogActions>
    </div>
  );
}
