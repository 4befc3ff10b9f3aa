import { Dialog as Radix } from 'radix-ui';
import type { ReactNode } from 'react';
import { Button } from './button';
import { cn } from './cn';

export interface DialogProps {
  title: string;
  description: ReactNode;
  children: ReactNode;
  /** As wide as pictures need. */
  isWide?: boolean;
  isOpen: boolean;
  onOpenChange: (isOpen: boolean) => void;
}

/** A window over the page; always with a title and a sentence that says what it is for. */
export function Dialog({ title, description, children, isWide, isOpen, onOpenChange }: DialogProps) {
  return (
    <Radix.Root open={isOpen} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-black/45" />
        <Radix.Content
          className={cn(
            'enter fixed inset-x-3 z-50 mx-auto overflow-auto rounded-xl border border-line bg-surface p-5 shadow-card',
            isWide ? 'top-[4vh] max-h-[92vh] max-w-6xl' : 'top-[12vh] max-h-[78vh] max-w-lg',
          )}
        >
          <Radix.Title className="text-lg font-semibold">{title}</Radix.Title>
          <Radix.Description asChild>
            <div className="mt-1 text-sm text-muted">{description}</div>
          </Radix.Description>
          <div className="mt-4">{children}</div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

export const DialogClose = Radix.Close;

interface DialogActionsProps {
  /** What the button that changes nothing says. */
  leave: string;
  /** The button that does it. */
  children: ReactNode;
}

/** The foot of a window; it stays in sight, however much stands above it. */
export function DialogActions({ leave, children }: DialogActionsProps) {
  return (
    <div className="sticky -bottom-5 -mx-5 mt-4 -mb-5 flex flex-wrap justify-end gap-2 rounded-b-xl border-t border-line bg-surface px-5 py-3">
      <DialogClose asChild>
        <Button look="quiet">{leave}</Button>
      </DialogClose>
      {children}
    </div>
  );
}
