import type { OpenFindingResource } from '@pragmatica/contract';
import { isWaivable, type Change } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { CircleCheck, TriangleAlert } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { usePublish } from '../../api/mutations';
import { findingsQuery, newFindingsQuery } from '../../api/queries';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import { Dialog, DialogActions, DialogClose } from '../../ui/dialog';
import { Field } from '../../ui/field';
import { useToast } from '../../ui/toast';
import { ChangeList } from './change-list';

interface PublishDialogProps {
  site: string;
  etag: string;
  changes: readonly Change[];
  isOpen: boolean;
  onOpenChange: (isOpen: boolean) => void;
}

/** What would go live, what the checks newly find in it, and the message under which it is kept. */
export function PublishDialog({ site, etag, changes, isOpen, onOpenChange }: PublishDialogProps) {
  const publish = usePublish(site);
  const toast = useToast();
  const [message, setMessage] = useState('');
  const [force, setForce] = useState('');
  const all = useQuery({ ...findingsQuery(site), enabled: isOpen });
  const fresh = useQuery({ ...newFindingsQuery(site), enabled: isOpen });
  const errors = all.data?.items.filter(({ severity }) => severity === 'error') ?? [];
  const breaking = errors.find((finding) => !isWaivable(finding));
  return (
    <Dialog
      title="Publish to all visitors"
      description={<ChangeList changes={changes} />}
      isOpen={isOpen}
      onOpenChange={onOpenChange}
    >
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          const body = { message, ...(errors.length > 0 ? { force } : {}) };
          publish.run({ etag, ...body }, ({ data }) => {
            toast({
              tone: 'done',
              title: `Release ${data.number} is live`,
              text:
                data.meanwhile.length === 0
                  ? 'Every page load from now on gets it.'
                  : `Changed in the draft meanwhile, and not live yet: ${data.meanwhile.join(' ')} Publish again to include it.`,
            });
            setMessage('');
            setForce('');
            onOpenChange(false);
          });
        }}
      >
        {all.data && fresh.data && <FoundList errors={errors} fresh={fresh.data} />}
        <Field
          label="What does this change?"
          placeholder="Chat on every page"
          hint="A line for those who look for it later, you included."
          required
          maxLength={120}
          value={message}
          onChange={(event) => setMessage(event.target.value)}
        />
        {breaking && (
          <p className="text-sm text-danger">
            {breaking.title}. That would break the page for visitors, so it has to be fixed first.
          </p>
        )}
        {errors.length > 0 && !breaking && (
          <Field
            label="Why publish in spite of that?"
            placeholder="The fair opens at nine; fixed tomorrow"
            hint="Kept in the release for everybody to see. It is better to fix or accept what is found."
            required
            minLength={3}
            maxLength={500}
            value={force}
            onChange={(event) => setForce(event.target.value)}
          />
        )}
        <DialogActions leave="Not yet">
          <Button
            type="submit"
            look={errors.length > 0 ? 'danger' : 'signal'}
            isBusy={publish.isPending}
            disabled={!all.data || breaking !== undefined}
          >
            {errors.length > 0 ? 'Publish all the same' : 'Publish now'}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}

/** Errors, new or not, and whatever else is new against what is live. */
function FoundList({
  errors,
  fresh,
}: {
  errors: readonly OpenFindingResource[];
  fresh: readonly OpenFindingResource[];
}) {
  const news = new Set(fresh.map(({ id }) => id));
  const shown = [...errors, ...fresh.filter(({ severity }) => severity === 'warning')];
  if (shown.length === 0)
    return (
      <p className="flex gap-1.5 text-sm text-good">
        <CircleCheck className="mt-0.5 size-4 shrink-0" aria-hidden /> The checks find nothing new in it.
      </p>
    );
  return (
    <div className="rounded-lg border border-line bg-raised p-3 text-sm">
      <p className="font-medium">
        {errors.length === 0
          ? 'New since the last release'
          : errors.length === 1
            ? 'An error is found'
            : `${errors.length} errors are found`}
      </p>
      <ul className="mt-1.5 space-y-1.5">
        {shown.map(({ id, title, severity }) => (
          <li key={id} className="flex gap-1.5">
            <TriangleAlert
              className={cn('mt-0.5 size-4 shrink-0', severity === 'error' ? 'text-danger' : 'text-signal')}
              aria-hidden
            />
            <span>
              {title}
              {news.has(id) && (
                <span className="ml-1.5 rounded-full bg-signal-soft px-1.5 text-xs font-medium text-signal">
                  new
                </span>
              )}
            </span>
          </li>
        ))}
      </ul>
      <DialogClose asChild>
        <Link to="../findings" className="mt-2 inline-block text-primary underline">
          What to do about it
        </Link>
      </DialogClose>
    </div>
  );
}
