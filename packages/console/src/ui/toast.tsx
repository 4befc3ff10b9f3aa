import { X } from 'lucide-react';
import { Toast } from 'radix-ui';
import { createContext, useCallback, useContext, useState, type ReactNode } from 'react';
import { cn } from './cn';
import { COMMON } from '../texts/common';

interface Message {
  readonly tone: 'done' | 'problem';
  readonly title: string;
  readonly text?: string;
  readonly action?: { readonly label: string; readonly run: () => void };
}

const ToastContext = createContext<((message: Message) => void) | undefined>(undefined);

/** Says something in the corner. A problem stays until it is closed. */
export function useToast(): (message: Message) => void {
  const show = useContext(ToastContext);
  if (!show) throw new Error(COMMON.usetoastNeedsToastprovider);
  return show;
}

export function ToastProvider({ children }: { children: ReactNode }) {
  const [messages, setMessages] = useState<readonly (Message & { readonly id: number })[]>([]);
  const show = useCallback((message: Message) => {
    setMessages((current) => [...current.slice(-2), { ...message, id: Date.now() + Math.random() }]);
  }, []);
  return (
    <ToastContext.Provider value={show}>
      <Toast.Provider swipeDirection="right">
        {children}
        {messages.map((message) => (
          <Toast.Root
            key={message.id}
            duration={message.tone === 'problem' ? Infinity : 6000}
            onOpenChange={(isOpen) => {
              if (!isOpen) setMessages((current) => current.filter((entry) => entry.id !== message.id));
            }}
            className={cn(
              'enter flex items-start gap-3 rounded-lg border bg-raised p-3.5 shadow-card',
              message.tone === 'problem' ? 'border-danger/60' : 'border-line-strong',
            )}
          >
            <div className="min-w-0 flex-1">
              <Toast.Title
                className={cn('text-sm font-semibold', message.tone === 'problem' && 'text-danger')}
              >
                {message.title}
              </Toast.Title>
              {message.text && (
                <Toast.Description className="mt-0.5 text-[13px] text-muted">
                  {message.text}
                </Toast.Description>
              )}
            </div>
            {message.action && (
              <Toast.Action
                altText={message.action.label}
                onClick={message.action.run}
                className="text-sm font-semibold text-primary"
              >
                {message.action.label}
              </Toast.Action>
            )}
            <Toast.Close aria-label={COMMON.close} className="text-muted hover:text-ink">
              <X className="size-4" aria-hidden />
            </Toast.Close>
          </Toast.Root>
        ))}
        <Toast.Viewport
          label={COMMON.notifications}
          className="fixed right-3 bottom-3 z-50 flex w-88 max-w-[calc(100vw-1.5rem)] flex-col gap-2"
        />
      </Toast.Provider>
    </ToastContext.Provider>
  );
}
