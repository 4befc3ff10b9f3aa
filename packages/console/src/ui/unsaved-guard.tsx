import { useEffect } from 'react';
import { useBlocker } from 'react-router';
import { COMMON } from '../texts/common';
import { Button } from './button';
import { Dialog } from './dialog';

interface UnsavedGuardProps {
  /** Whether something would be lost; asked at the moment of leaving. */
  readonly isUnsaved: () => boolean;
}

/** The state of a link that is followed in place of what is typed. */
export const INSTEAD = 'instead';

/** Asks before somebody leaves a page with changes that are not saved. */
export function UnsavedGuard({ isUnsaved }: UnsavedGuardProps) {
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) =>
      currentLocation.pathname !== nextLocation.pathname && nextLocation.state !== INSTEAD && isUnsaved(),
  );
  useEffect(() => {
    const ask = (event: BeforeUnloadEvent): void => {
      if (isUnsaved()) event.preventDefault();
    };
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, [isUnsaved]);
  return (
    <Dialog
      title={COMMON.unsavedTitle}
      description={COMMON.unsavedText}
      isOpen={blocker.state === 'blocked'}
      onOpenChange={(isOpen) => !isOpen && blocker.reset?.()}
    >
      <div className="flex flex-wrap justify-end gap-2">
        <Button look="quiet" onClick={() => blocker.proceed?.()}>
          {COMMON.unsavedLeave}
        </Button>
        <Button look="primary" onClick={() => blocker.reset?.()}>
          {COMMON.unsavedStay}
        </Button>
      </div>
    </Dialog>
  );
}
