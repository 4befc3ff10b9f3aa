import { ApiError } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Outlet } from 'react-router';
import { hasFailed } from '../api/failed';
import { followLanguage } from '../api/languages';
import { sessionQuery } from '../api/queries';
import { ConfirmDialog } from '../views/account/confirm-dialog';
import { ChoosePassword } from '../views/sign-in/choose-password';
import { SignInView } from '../views/sign-in/sign-in-view';
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
  if (hasFailed(session)) {
    if (session.error instanceof ApiError && session.error.status === 401) return <SignInView />;
    return (
      <div className="mx-auto max-w-xl p-6">
        <Failure error={session.error} onRetry={() => void session.refetch()} />
      </div>
    );
  }
  if (session.data.mustChangePassword) return <ChoosePassword member={session.data} />;
  return (
    <div className="flex min-h-dvh flex-col">
      <TopBar member={session.data} />
      <Outlet />
      <ConfirmDialog />
      <Tour />
    </div>
  );
}
