import { Switch as Radix } from 'radix-ui';
import type { ComponentProps } from 'react';
import { cn } from './cn';
import { useMissingRight } from './may';

/** @selector data-state — `checked` or `unchecked` */
export function Switch({
  className,
  needs,
  disabled,
  ...rest
}: ComponentProps<typeof Radix.Root> & { needs?: 'edit' | 'publish' | 'own' }) {
  const missing = useMissingRight(needs);
  return (
    <Radix.Root
      className={cn(
        'relative h-5 w-9 shrink-0 rounded-full bg-line-strong transition-colors data-[state=checked]:bg-primary disabled:opacity-60',
        className,
      )}
      disabled={disabled || missing !== undefined}
      title={missing}
      {...rest}
    >
      <Radix.Thumb className="block size-4 translate-x-0.5 rounded-full bg-surface shadow transition-transform data-[state=checked]:translate-x-[18px]" />
    </Radix.Root>
  );
}
