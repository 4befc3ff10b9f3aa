import type { PreviewResource } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { Copy, ExternalLink, Eye } from 'lucide-react';
import { useState } from 'react';
import { fieldErrorsOf } from '../../api/field-errors';
import { useMakePreview } from '../../api/preview';
import { siteQuery } from '../../api/queries';
import { PREVIEW } from '../../texts/preview';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { Field } from '../../ui/field';
import { FormDialog } from '../../ui/form-dialog';
import { SelectField } from '../../ui/select-field';
import { Time } from '../../ui/time';
import { useCopy } from '../../ui/use-copy';

interface PreviewButtonProps {
  readonly site: string;
  /** The page that it begins with, unless somebody says otherwise. */
  readonly path?: string;
  readonly className?: string;
}

/** Hours for which an address can be asked for. */
const HOURS = [4, 24, 72, 168, 336];

/** Makes an address that shows the draft on the site’s real pages. */
export function PreviewButton({ site, path = '/', className }: PreviewButtonProps) {
  const [isOpen, setOpen] = useState(false);
  const [made, setMade] = useState<PreviewResource>();
  const openOrClose = (open: boolean): void => {
    setOpen(open);
    if (open) setMade(undefined);
  };
  return (
    <>
      <Button className={className} onClick={() => openOrClose(true)}>
        <Eye className="size-4" aria-hidden /> {PREVIEW.open}
      </Button>
      {made ? (
        <ReadyDialog made={made} isOpen={isOpen} onOpenChange={openOrClose} />
      ) : (
        <AskDialog
          key={path}
          site={site}
          first={path}
          isOpen={isOpen}
          onOpenChange={openOrClose}
          onMade={setMade}
        />
      )}
    </>
  );
}

interface OpenProps {
  readonly isOpen: boolean;
  readonly onOpenChange: (isOpen: boolean) => void;
}

function AskDialog({
  site,
  first,
  onMade,
  ...dialog
}: OpenProps & {
  readonly site: string;
  readonly first: string;
  readonly onMade: (made: PreviewResource) => void;
}) {
  const make = useMakePreview(site);
  const hosts = useQuery(siteQuery(site)).data?.data.hosts ?? [];
  const [chosen, setChosen] = useState<string>();
  const [path, setPath] = useState(first);
  const [hours, setHours] = useState(24);
  const host =
    hosts.find((one) => one.host === chosen) ??
    hosts.find(({ environment }) => environment === 'live') ??
    hosts[0];
  const errors = fieldErrorsOf(make.error);
  return (
    <FormDialog
      title={PREVIEW.title}
      description={PREVIEW.description}
      {...dialog}
      onSubmit={() =>
        make.mutate(
          { host: host?.host, environment: host?.environment ?? 'live', path, hours },
          { onSuccess: onMade },
        )
      }
      submit={PREVIEW.make}
      isBusy={make.isPending}
      leave={PREVIEW.leave}
      error={errors.isEmpty ? make.error : null}
    >
      {hosts.length > 1 && host && (
        <SelectField
          label={PREVIEW.host}
          value={host.host}
          options={hosts.map((one) => [one.host, one.host])}
          onChange={setChosen}
        />
      )}
      <Field
        label={PREVIEW.path}
        hint={PREVIEW.pathHint}
        error={errors.at('/path')}
        required
        maxLength={2_000}
        value={path}
        onChange={(event) => setPath(event.target.value)}
      />
      <SelectField
        label={PREVIEW.hours}
        value={String(hours)}
        options={HOURS.map((one) => [
          String(one),
          one < 24 ? say(PREVIEW.hoursOf, { hours: one }) : say(PREVIEW.daysOf, { days: one / 24 }),
        ])}
        onChange={(value) => setHours(Number(value))}
      />
    </FormDialog>
  );
}

function ReadyDialog({ made, ...dialog }: OpenProps & { readonly made: PreviewResource }) {
  const copy = useCopy();
  return (
    <Dialog
      title={PREVIEW.ready}
      description={
        <>
          {PREVIEW.readyText} <Time at={made.until} />.
        </>
      }
      {...dialog}
    >
      <code className="block max-h-32 overflow-auto rounded-lg border border-line bg-primary-soft p-3 font-mono text-xs [overflow-wrap:anywhere]">
        {made.address}
      </code>
      {made.isOnlyHere && <p className="mt-2 text-[13px] text-muted">{PREVIEW.onlyHere}</p>}
      <DialogActions leave={PREVIEW.close}>
        <Button onClick={() => copy(made.address, PREVIEW.copied)}>
          <Copy className="size-4" aria-hidden /> {PREVIEW.copy}
        </Button>
        <Button asChild look="primary">
          <a href={made.address} target="_blank" rel="noreferrer noopener">
            <ExternalLink className="size-4" aria-hidden /> {PREVIEW.visit}
          </a>
        </Button>
      </DialogActions>
    </Dialog>
  );
}
