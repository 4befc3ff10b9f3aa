import type { RecipeResource } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useImportRecipe } from '../../api/mutations';
import { allRecipesQuery } from '../../api/recipe-lists';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { Field, inputStyle } from '../../ui/field';
import { useToast } from '../../ui/toast';

/** Says that a recipe is given up, or takes that back. Both make a new version. */
export function RetireButton({ recipe }: Pick<RecipeResource, 'recipe'>) {
  const [isOpen, setOpen] = useState(false);
  const [reason, setReason] = useState('');
  const [next, setNext] = useState('');
  const all = useQuery({ ...allRecipesQuery, enabled: isOpen }).data;
  const others = all?.filter(({ key }) => key !== recipe.key) ?? [];
  const change = useImportRecipe();
  const toast = useToast();
  const { retired, changes: _, ...rest } = recipe;
  const keep = (isRetired: boolean): void =>
    change.run(
      {
        ...rest,
        version: recipe.version + 1,
        ...(isRetired ? { retired: { reason, ...(next === '' ? {} : { replacedBy: next }) } } : {}),
      },
      () => {
        setOpen(false);
        toast({
          tone: 'done',
          title: isRetired ? `“${recipe.name}” is retired` : `“${recipe.name}” is no longer retired`,
        });
      },
    );
  if (retired)
    return (
      <Button look="quiet" isBusy={change.isPending} onClick={() => keep(false)}>
        It is not retired after all
      </Button>
    );
  return (
    <>
      <Button look="quiet" onClick={() => setOpen(true)}>
        Retire…
      </Button>
      <Dialog
        title={`Retire “${recipe.name}”?`}
        description="Its installs stay as they are, and each becomes a finding that says what to take instead. It can be taken back."
        isOpen={isOpen}
        onOpenChange={setOpen}
      >
        <div className="space-y-4">
          <Field
            label="Why?"
            required
            placeholder="The provider switches it off in May."
            value={reason}
            onChange={(event) => setReason(event.target.value)}
          />
          <label className="block space-y-1.5 text-sm font-medium">
            What to take instead
            <select className={inputStyle} value={next} onChange={(event) => setNext(event.target.value)}>
              <option value="">Nothing yet</option>
              {others.map((entry) => (
                <option key={entry.key} value={entry.key}>
                  {entry.name}
                </option>
              ))}
            </select>
          </label>
        </div>
        <DialogActions leave="Keep it">
          <Button
            look="danger"
            isBusy={change.isPending}
            disabled={reason.trim() === ''}
            onClick={() => keep(true)}
          >
            Retire it
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
