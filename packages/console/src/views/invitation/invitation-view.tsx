import { ApiError, type OpenedInvitation } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { useSyncExternalStore } from 'react';
import { invitationQuery } from '../../api/members';
import { sessionQuery } from '../../api/queries';
import { MEMBERS } from '../../texts/members';
import { say } from '../../texts/say';
import { Failure, Loading } from '../../ui/states';
import { SignInCard } from '../sign-in/sign-in-card';
import { JoinForm } from './join-form';
import { NewMemberForm } from './new-member-form';

/** What somebody sees who was invited. */
export function InvitationView() {
  const secret = useSyncExternalStore(onHashChange, () => window.location.hash.slice(1));
  const invitation = useQuery({ ...invitationQuery(secret), enabled: secret !== '' });
  const session = useQuery(sessionQuery);
  const isOver =
    secret === '' || (invitation.error instanceof ApiError && [404, 422].includes(invitation.error.status));
  if (isOver)
    return (
      <SignInCard title={MEMBERS.overTitle} text={MEMBERS.overText}>
        {null}
      </SignInCard>
    );
  if (invitation.isError)
    return (
      <div className="mx-auto max-w-xl p-6">
        <Failure error={invitation.error} onRetry={() => void invitation.refetch()} />
      </div>
    );
  if (!invitation.data || session.isPending)
    return (
      <div className="mx-auto max-w-sm p-6">
        <Loading label={MEMBERS.opening} />
      </div>
    );
  const { data } = invitation;
  return (
    <SignInCard title={MEMBERS.toInvitation} text={say(MEMBERS.invitedBy, { by: data.by })}>
      <Gives invitation={data} />
      {session.data ? (
        <JoinForm secret={secret} login={session.data.login} />
      ) : (
        <NewMemberForm secret={secret} name={data.name} />
      )}
    </SignInCard>
  );
}

function onHashChange(listener: () => void): () => void {
  window.addEventListener('hashchange', listener);
  return () => window.removeEventListener('hashchange', listener);
}

function Gives({ invitation: { role, sites } }: { invitation: OpenedInvitation }) {
  return (
    <div className="-mt-2 mb-5 text-sm">
      <p>{MEMBERS.youWill}</p>
      <ul className="mt-1 list-disc pl-5">
        {role !== null && <li>{say(MEMBERS.willEverywhere, { role })}</li>}
        {sites.map((at) => (
          <li key={at.siteName}>{say(MEMBERS.willAt, { role: at.role, site: at.siteName })}</li>
        ))}
      </ul>
    </div>
  );
}
