import { useMutation } from '@tanstack/react-query';
import { KeyRound } from 'lucide-react';
import { goToProvider, type Errand } from '../../api/identities';
import { Button } from '../../ui/button';
import { FormError } from '../../ui/field';

interface ProviderButtonProps {
  /** What somebody goes there for. */
  readonly errand: Errand;
  /** Whoever is signed in there is asked all the same. */
  readonly isFresh?: boolean;
  readonly isDisabled?: boolean;
  readonly className?: string;
  readonly children: string;
}

/** Leaves for the identity provider. */
export function ProviderButton({ errand, isFresh, isDisabled, className, children }: ProviderButtonProps) {
  const go = useMutation({ mutationFn: () => goToProvider(errand, { isFresh }) });
  return (
    <div className="space-y-2">
      <Button
        className={className}
        disabled={isDisabled}
        // The page is left once it is known where to.
        isBusy={go.isPending || go.isSuccess}
        onClick={() => go.mutate()}
      >
        <KeyRound className="size-4" aria-hidden /> {children}
      </Button>
      <FormError error={go.error} />
    </div>
  );
}
