import { Button } from './button';
import { Dialog, DialogActions, type DialogProps } from './dialog';
import { FormError } from './field';

interface DangerDialogProps extends Omit<DialogProps, 'children' | 'isWide'> {
  /** What the button that does it says. */
  readonly act: string;
  /** What the button that changes nothing says. */
  readonly leave: string;
  readonly isBusy: boolean;
  readonly error?: Error | null;
  readonly onAct: () => void;
}

/** Asks before something is done that cannot be undone. */
export function DangerDialog({ act, leave, isBusy, error, onAct, ...dialog }: DangerDialogProps) {
  return (
    <Dialog {...dialog}>
      <FormError error={error} />
      <DialogActions leave={leave}>
        <Button look="danger" isBusy={isBusy} onClick={onAct}>
          {act}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
