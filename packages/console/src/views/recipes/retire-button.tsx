import type { RecipeResource } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useImportRecipe } from '../../api/mutations';
import { allRecipesQuery } from '../../api/recipe-lists';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { Field, inputStyle } from '../../ui/field';
import { useToast } from '../../ui/toast';
import { RECIPES } from '../../texts/recipes';
import { say } from '../../texts/say';

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
          title: isRetired
            ? say(RECIPES.nameRetired, { name: recipe.name })
            : say(RECIPES.nameNoLonger, { name: recipe.name }),
        });
      },
    );
  if (retired)
    return (
      <Button look="quiet" isBusy={change.isPending} onClick={() => keep(false)}>
        {RECIPES.notRetiredAfter}
      </Button>
    );
  return (
    <>
      <Button look="quiet" onClick={() => setOpen(true)}>
        {RECIPES.retire}
      </Button>
      <Dialog
        title={say(RECIPES.retireName, { name: recipe.name })}
        description={RECIPES.installsStayThey}
        isOpen={isOpen}
        onOpenChange={setOpen}
      >
        <div className="space-y-4">
          <Field
            label={RECIPES.why}
            required
            placeholder={RECIPES.providerSwitchesOff}
            value={reason}
            onChange={(event) => setReason(event.target.value)}
          />
          <label className="block space-y-1.5 text-sm font-medium">
            {RECIPES.whatTakeInstead}
            <select className={inputStyle} value={next} onChange={(event) => setNext(event.target.value)}>
              <option value="">{RECIPES.nothingYet}</option>
              {others.map((entry) => (
                <option key={entry.key} value={entry.key}>
                  {entry.name}
                </option>
              ))}
            </select>
          </label>
        </div>
        <DialogActions leave={RECIPES.keep}>
          <Button
            look="danger"
            isBusy={change.isPending}
            disabled={reason.trim() === ''}
            onClick={() => keep(true)}
          >
            {RECIPES.retireIt}
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
