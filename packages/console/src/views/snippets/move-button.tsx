import type { SnippetResource } from '@pragmatica/contract';
import { NAMED_PLACEMENTS, placementWords, type NamedPlacement } from '@pragmatica/core';
import { useState } from 'react';
import { useMoveSnippets, useUndoFix } from '../../api/mutations';
import { say } from '../../texts/say';
import { SNIPPETS } from '../../texts/snippets';
import { Button } from '../../ui/button';
import { FormDialog } from '../../ui/form-dialog';
import { SelectField } from '../../ui/select-field';
import { useToast } from '../../ui/toast';

interface MoveButtonProps {
  readonly site: string;
  readonly chosen: readonly SnippetResource[];
  readonly onDone: () => void;
}

const PLACES = NAMED_PLACEMENTS.map((placement) => [placement, placementWords(placement)] as const);

/** Moves several snippets to another placement; it can be undone from the message. */
export function MoveButton({ site, chosen, onDone }: MoveButtonProps) {
  const [isOpen, setOpen] = useState(false);
  const [placement, setPlacement] = useState<NamedPlacement>('body-end');
  const move = useMoveSnippets(site);
  const undo = useUndoFix(site);
  const toast = useToast();
  const tell = ({
    moved,
    left,
  }: {
    readonly moved: readonly string[];
    readonly left: readonly string[];
  }): void => {
    setOpen(false);
    toast({
      tone: 'done',
      title: say(SNIPPETS.moved, { count: moved.length, place: placementWords(placement) }),
      ...(left.length > 0 ? { text: say(SNIPPETS.notMoved, { snippets: left }) } : {}),
      action: { label: SNIPPETS.undo, run: () => undo.run(chosen) },
    });
    onDone();
  };
  return (
    <>
      <Button size="small" needs="edit" onClick={() => setOpen(true)}>
        {SNIPPETS.move}
      </Button>
      <FormDialog
        title={say(SNIPPETS.moveTitle, { count: chosen.length })}
        description={SNIPPETS.moveText}
        isOpen={isOpen}
        onOpenChange={setOpen}
        onSubmit={() => {
          move.run({ snippets: chosen.map(({ key }) => key), placement }, tell);
        }}
        submit={SNIPPETS.moveDo}
        isBusy={move.isPending}
        leave={SNIPPETS.moveNot}
      >
        <SelectField
          label={SNIPPETS.placement}
          value={placement}
          options={PLACES}
          onChange={(value) => setPlacement(value as NamedPlacement)}
        />
      </FormDialog>
    </>
  );
}
