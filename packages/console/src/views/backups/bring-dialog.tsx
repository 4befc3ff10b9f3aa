import type { BringSiteEvent, KeptBackup } from '@pragmatica/contract';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { backupContentsQuery, bringSiteBack } from '../../api/backups';
import { refreshSites } from '../../api/site-lists';
import { BACKUPS } from '../../texts/backups';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { Field } from '../../ui/field';
import { FormDialog } from '../../ui/form-dialog';
import { SelectField } from '../../ui/select-field';
import { Failure, Loading } from '../../ui/states';
import { timeWords } from '../../ui/time';
import { useLoad } from './use-load';

type Brought = Extract<BringSiteEvent, { readonly type: 'done' }>;

/** Which site of a backup is to come back, and as what. */
export function BringDialog({ backup, onClose }: { backup: KeptBackup; onClose: () => void }) {
  const contents = useQuery(backupContentsQuery(backup.id));
  const client = useQueryClient();
  const load = useLoad<BringSiteEvent>();
  const [site, setSite] = useState('');
  const [as, setAs] = useState<string>();
  const sites = contents.data?.sites ?? [];
  const chosen = site === '' ? (sites[0]?.key ?? '') : site;
  const key = as ?? (chosen === '' ? '' : `${chosen}-${backup.at.slice(0, 10)}`);
  const frame = {
    title: BACKUPS.bringTitle,
    description: say(BACKUPS.bringText, { when: timeWords(backup.at) }),
    isOpen: true,
    onOpenChange: (isOpen: boolean) => {
      if (isOpen) return;
      load.stop();
      onClose();
    },
  };
  if (load.result) return <BroughtDialog frame={frame} brought={load.result} />;
  if (!contents.data)
    return (
      <Dialog {...frame}>
        {contents.isError ? (
          <Failure error={contents.error} onRetry={() => void contents.refetch()} />
        ) : (
          <Loading lines={2} />
        )}
        <DialogActions leave={BACKUPS.leave}>{null}</DialogActions>
      </Dialog>
    );
  const { progress } = load;
  return (
    <FormDialog
      {...frame}
      submit={BACKUPS.bringIt}
      isBusy={load.isRunning}
      isDisabled={chosen === '' || key.trim() === ''}
      leave={load.isRunning ? BACKUPS.stop : BACKUPS.leave}
      error={load.error}
      onSubmit={() =>
        void load
          .run((signal) => bringSiteBack(backup.id, chosen, key.trim(), signal))
          .then(async () => refreshSites(client))
      }
    >
      <SelectField
        label={BACKUPS.site}
        value={chosen}
        options={sites.map((one) => [one.key, one.name] as const)}
        onChange={setSite}
      />
      <Field
        label={BACKUPS.as}
        hint={BACKUPS.asHint}
        value={key}
        onChange={(event) => setAs(event.target.value)}
      />
      {load.isRunning && progress && (
        <p role="status" className="text-sm">
          {progress.done < progress.rows ? say(BACKUPS.reading, progress) : BACKUPS.putting}
        </p>
      )}
    </FormDialog>
  );
}

interface BroughtDialogProps {
  readonly frame: Omit<Parameters<typeof Dialog>[0], 'children'>;
  readonly brought: Brought;
}

function BroughtDialog({ frame, brought }: BroughtDialogProps) {
  const { site, name, takenHosts, lost } = brought;
  return (
    <Dialog
      {...frame}
      title={say(BACKUPS.broughtTitle, { name })}
      description={say(BACKUPS.brought, { snippets: brought.snippets, releases: brought.releases })}
    >
      <div className="space-y-2 text-sm">
        {takenHosts.length > 0 && <p>{say(BACKUPS.takenHosts, { hosts: takenHosts })}</p>}
        {lost.length > 0 && <p>{say(BACKUPS.lostAccess, { hosts: lost.map((one) => one.name) })}</p>}
        <p className="text-muted">{BACKUPS.notBrought}</p>
      </div>
      <DialogActions leave={BACKUPS.done}>
        <Button asChild look="primary">
          <Link to={`/sites/${site}/strip`}>{BACKUPS.open}</Link>
        </Button>
      </DialogActions>
    </Dialog>
  );
}
