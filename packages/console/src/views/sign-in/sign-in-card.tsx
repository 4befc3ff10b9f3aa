import type { ReactNode } from 'react';
import { Mark } from '../../layout/mark';
import { SIGN_IN } from '../../texts/sign-in';
import { LanguageSwitch } from './language-switch';

/** What stands before the console: one card in the middle of the page. */
export function SignInCard({
  title,
  text,
  children,
}: {
  title: string;
  text: ReactNode;
  children: ReactNode;
}) {
  return (
    <main className="grid min-h-dvh place-items-center p-4">
      <div className="w-full max-w-sm">
        <div className="mb-5 flex items-center gap-2.5 text-lg font-semibold">
          <Mark className="size-8" /> {SIGN_IN.pragmatica}
        </div>
        <div className="rounded-xl border border-line bg-surface p-6 shadow-card">
          <h1 className="text-xl">{title}</h1>
          <p className="mt-1 mb-5 text-sm text-muted">{text}</p>
          {children}
        </div>
        <LanguageSwitch />
      </div>
    </main>
  );
}
