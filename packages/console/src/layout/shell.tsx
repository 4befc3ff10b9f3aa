import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Outlet } from 'react-router';
import { followLanguage } from '../api/languages';
import { sessionQuery } from '../api/queries';
import { isSessionOver } from '../api/session-over';
import { ConfirmDialog } from '../views/account/confirm-dialog';
import { ChoosePassword } from '../views/sign-in/choose-password';
import { SignInView } from '../views/sign-in/sign-in-view';
import { cn } from '../ui/cn';
import { Failure, Loading } from '../ui/states';
import { Tour } from '../views/tour/tour-card';
import { TopBar } from './top-bar';
import { COMMON } from '../texts/common';

/** Everything stands behind the sign-in. */
export function Shell() {
  const session = useQuery(sessionQuery);
  const language = session.data?.language;
  const [isReloading, setReloading] = useState(false);
  useEffect(() => {
    if (language !== undefined) setReloading(followLanguage(language));
  }, [language]);
  if (session.isPending || isReloading) {
    return (
      <div className="mx-auto max-w-5xl p-6">
        <Loading label={COMMON.loadingConsole} />
      </div>
    );
  }
  const { data: member, error } = session;
  const isSignedOut = isSessionOver(error);
  if (member === undefined) {
    if (isSignedOut) return <SignInView />;
    return (
      <div className="mx-auto max-w-xl p-6">
        <Failure error={error} onRetry={() => void session.refetch()} />
      </div>
    );
  }
  if (member.mustChangePassword) return <ChoosePassword member={member} />;
  return (
    <>
      {isSignedOut && <SignInView again={member.login} />}
      {/* What is typed there waits for whoever typed it. */}
      <div key={member.login} className={cn('min-h-dvh flex-col', isSignedOut ? 'hidden' : 'flex')}>
        <TopBar member={member} />
        <Outlet />
        <ConfirmDialog />
        <Tour />
      </div>
    </>
  );
}
