import { cva, type VariantProps } from 'class-variance-authority';
import { LoaderCircle } from 'lucide-react';
import { Slot } from 'radix-ui';
import type { ComponentProps, ReactElement, ReactNode } from 'react';
import { cn } from './cn';
import { useMissingRight } from './may';

const styles = cva(
  'inline-flex items-center justify-center gap-1.5 rounded-md font-medium sm:whitespace-nowrap transition-colors disabled:opacity-55 disabled:cursor-not-allowed',
  {
    variants: {
      look: {
        primary: 'bg-primary text-primary-ink hover:brightness-110',
        plain: 'border border-line-strong bg-raised text-ink hover:bg-paper',
        quiet: 'text-muted hover:bg-line/50 hover:text-ink',
        danger: 'bg-danger text-paper hover:brightness-110',
        signal: 'bg-signal text-paper hover:brightness-110',
      },
      size: {
        normal: 'min-h-9 px-3.5 py-1 text-sm',
        small: 'min-h-7 px-2 py-0.5 text-[13px]',
        icon: 'size-9',
      },
    },
    defaultVariants: { look: 'plain', size: 'normal' },
  },
);

type ButtonProps = ComponentProps<'button'> &
  VariantProps<typeof styles> & {
    /** The child element takes the look, e.g. a link. */
    asChild?: boolean;
    /** Something is under way; the button waits. */
    isBusy?: boolean;
    /** The right that it takes at the site that is shown; without it the button says so and does nothing. */
    needs?: 'edit' | 'publish' | 'own';
  };

export function Button({
  look,
  size,
  asChild,
  isBusy = false,
  className,
  children,
  disabled,
  needs,
  ...rest
}: ButtonProps) {
  const missing = useMissingRight(needs);
  const classes = cn(styles({ look, size }), className);
  if (asChild && missing === undefined) {
    return (
      <Slot.Root className={classes} {...rest}>
        {children}
      </Slot.Root>
    );
  }
  return (
    <button
      type="button"
      className={classes}
      disabled={disabled || isBusy || missing !== undefined}
      title={missing}
      aria-busy={isBusy || undefined}
      {...rest}
    >
      {isBusy && <LoaderCircle className="size-4 animate-spin" aria-hidden />}
      {asChild ? (children as ReactElement<{ children: ReactNode }>).props.children : children}
    </button>
  );
}
