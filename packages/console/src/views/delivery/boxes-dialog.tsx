import type { BoxResource } from '@pragmatica/contract';
import { BOX_KEYS, type BoxKind } from '@pragmatica/core';
import { useState } from 'react';
import { fieldErrorsOf } from '../../api/field-errors';
import { useSetBoxes } from '../../api/paste';
import { DELIVERY } from '../../texts/delivery';
import { Field } from '../../ui/field';
import { FormDialog } from '../../ui/form-dialog';

interface BoxesDialogProps {
  readonly site: string;
  readonly boxes: readonly BoxResource[];
  readonly isOpen: boolean;
  readonly onOpenChange: (isOpen: boolean) => void;
}

/** Which boxes there are, what they are called, and what they do to code. */
export function BoxesDialog({ site, boxes, isOpen, onOpenChange }: BoxesDialogProps) {
  const save = useSetBoxes(site);
  const [typed, setTyped] = useState<readonly BoxResource[]>(boxes);
  const errors = fieldErrorsOf(save.error);
  const change = (kind: BoxKind, to: Partial<BoxResource> | undefined): void =>
    setTyped((before) => {
      const others = before.filter((box) => box.kind !== kind);
      if (to === undefined) return others;
      const box = { name: '', ...before.find((one) => one.kind === kind), ...to, kind };
      return [...others, box].sort((a, b) => BOX_KEYS.indexOf(a.kind) - BOX_KEYS.indexOf(b.kind));
    });
  return (
    <FormDialog
      title={DELIVERY.dialogTitle}
      description={DELIVERY.dialogText}
      isOpen={isOpen}
      onOpenChange={onOpenChange}
      onSubmit={() => save.run([...typed], () => onOpenChange(false))}
      submit={DELIVERY.save}
      isBusy={save.isPending}
      leave={DELIVERY.leave}
      error={errors.isEmpty ? save.error : undefined}
    >
      {BOX_KEYS.map((kind) => {
        const index = typed.findIndex((box) => box.kind === kind);
        const box = typed[index];
        return (
          <fieldset key={kind} className="rounded-lg border border-line p-3">
            <label className="flex items-center gap-2 text-sm font-medium">
              <Tick isOn={box !== undefined} onChange={(isOn) => change(kind, isOn ? {} : undefined)} />
              {DELIVERY.kinds[kind]}
            </label>
            {box && (
              <div className="mt-3 space-y-3 pl-6">
                <Field
                  label={DELIVERY.boxName}
                  hint={DELIVERY.boxNameHint}
                  required
                  maxLength={100}
                  value={box.name}
                  error={errors.at(`/boxes/${index}/name`)}
                  onChange={(event) => change(kind, { name: event.target.value })}
                />
                <Field
                  label={DELIVERY.maxLength}
                  type="number"
                  min={100}
                  value={box.maxLength ?? ''}
                  error={errors.at(`/boxes/${index}/maxLength`)}
                  onChange={(event) =>
                    change(kind, {
                      maxLength: event.target.value === '' ? undefined : Number(event.target.value),
                    })
                  }
                />
                <label className="flex items-center gap-2 text-sm">
                  <Tick
                    isOn={box.stripsScripts === true}
                    onChange={(isOn) => change(kind, { stripsScripts: isOn })}
                  />
                  {DELIVERY.stripsScripts}
                </label>
                <label className="flex items-center gap-2 text-sm">
                  <Tick
                    isOn={box.stripsComments === true}
                    onChange={(isOn) => change(kind, { stripsComments: isOn })}
                  />
                  {DELIVERY.stripsComments}
                </label>
              </div>
            )}
          </fieldset>
        );
      })}
    </FormDialog>
  );
}

function Tick({ isOn, onChange }: { isOn: boolean; onChange: (isOn: boolean) => void }) {
  return (
    <input
      type="checkbox"
      className="size-4 accent-(--primary)"
      checked={isOn}
      onChange={(event) => onChange(event.target.checked)}
    />
  );
}
