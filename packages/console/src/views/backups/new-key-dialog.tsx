import { useQuery } from '@tanstack/react-query';
import { Download } from 'lucide-react';
import { useState } from 'react';
import { BACKUPS } from '../../texts/backups';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { saveFile } from '../../ui/save-file';
import { Dialog, DialogActions } from '../../ui/dialog';
import { Failure, Loading } from '../../ui/states';

interface NewKeyDialogProps {
  readonly onClose: () => void;
  /** @param recipient - the public half */
  readonly onUse: (recipient: string) => void;
}

/** A key that is made here and goes nowhere but into a file of whoever asked for it. */
export function NewKeyDialog({ onClose, onUse }: NewKeyDialogProps) {
  const pair = useQuery({ queryKey: ['new-backup-key'], queryFn: makeKey, gcTime: 0, staleTime: Infinity });
  const [isKept, setKept] = useState(false);
  const save = (): void => {
    if (!pair.data) return;
    const text = say(BACKUPS.newKeyFile, { ...pair.data, at: new Date().toISOString() });
    saveFile('pragmatica-backup-key.txt', text);
    setKept(true);
  };
  return (
    <Dialog
      title={BACKUPS.newKeyTitle}
      description={BACKUPS.newKeyText}
      isOpen
      onOpenChange={(isOpen) => !isOpen && onClose()}
    >
      {pair.isPending && <Loading lines={1} />}
      {pair.isError && <Failure error={pair.error} onRetry={() => void pair.refetch()} />}
      {pair.data && (
        <div className="space-y-3 text-sm">
          <p className="font-medium">{BACKUPS.newKeyWarning}</p>
          <Button look={isKept ? 'plain' : 'primary'} onClick={save}>
            <Download className="size-4" aria-hidden /> {BACKUPS.newKeyDownload}
          </Button>
        </div>
      )}
      <DialogActions leave={BACKUPS.leave}>
        <Button
          look={isKept ? 'primary' : 'plain'}
          disabled={!isKept}
          onClick={() => pair.data && onUse(pair.data.recipient)}
        >
          {BACKUPS.newKeyUse}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

async function makeKey(): Promise<{ key: string; recipient: string }> {
  const { generateX25519Identity, identityToRecipient } = await import('age-encryption');
  const key = await generateX25519Identity();
  return { key, recipient: await identityToRecipient(key) };
}
