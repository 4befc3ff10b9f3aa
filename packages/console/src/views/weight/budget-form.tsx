import { watchSettings } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { useId, useState } from 'react';
import { fieldErrorsOf } from '../../api/field-errors';
import { useSetWatch, watchQuery, type Watch } from '../../api/watch';
import { WEIGHT } from '../../texts/weight';
import { Button } from '../../ui/button';
import { FormError, inputStyle } from '../../ui/field';
import { Labelled } from '../../ui/labelled';
import { useToast } from '../../ui/toast';

/** What snippets may add to a page. */
export function BudgetForm({ site }: { site: string }) {
  const watch = useQuery(watchQuery(site));
  if (!watch.data) return null;
  const { data, etag } = watch.data;
  return <LoadedForm key={String(data.budgetKb)} site={site} watch={data} etag={etag} />;
}

function LoadedForm({ site, watch, etag }: { site: string; watch: Watch; etag: string }) {
  const id = useId();
  const toast = useToast();
  const set = useSetWatch(site);
  const [typed, setTyped] = useState(watch.budgetKb === null ? '' : String(watch.budgetKb));
  const errors = fieldErrorsOf(set.error);
  const save = (): void => {
    const budgetKb = typed.trim() === '' ? null : Number(typed);
    set.run({ etag, ...watchSettings(watch), budgetKb }, () =>
      toast({ tone: 'done', title: budgetKb === null ? WEIGHT.removed : WEIGHT.saved }),
    );
  };
  return (
    <form
      className="rounded-xl border border-line bg-surface p-4"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <Labelled id={id} label={WEIGHT.budget} hint={WEIGHT.budgetHint} error={errors.at('/budgetKb')}>
        <div className="flex items-center gap-2">
          <input
            id={id}
            type="number"
            inputMode="numeric"
            min={1}
            max={100_000}
            className={`${inputStyle} max-w-32`}
            value={typed}
            aria-describedby={`${id}-note`}
            onChange={(event) => setTyped(event.target.value)}
          />
          <span className="text-sm text-muted">{WEIGHT.kb}</span>
          <Button type="submit" isBusy={set.isPending}>
            {WEIGHT.save}
          </Button>
        </div>
      </Labelled>
      {errors.isEmpty && <FormError error={set.error} />}
    </form>
  );
}
