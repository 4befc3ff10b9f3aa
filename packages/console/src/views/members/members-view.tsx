import { useQuery } from '@tanstack/react-query';
import { invitationsQuery, membersQuery } from '../../api/members';
import { MEMBERS } from '../../texts/members';
import { Section } from '../../ui/section';
import { Failure, Loading } from '../../ui/states';
import { InvitationList } from './invitation-list';
import { InviteButton } from './invite-dialog';
import { MemberRow } from './member-row';

/** Everybody who can sign in, for those who own the installation. */
export function MembersView() {
  const members = useQuery(membersQuery);
  const invitations = useQuery({ ...invitationsQuery, enabled: members.isSuccess });
  return (
    <main className="mx-auto w-full max-w-4xl space-y-5 px-3 py-6 sm:px-5">
      <div className="flex flex-wrap items-start justify-between gap-3">
        <div className="min-w-52 flex-1">
          <h1>{MEMBERS.title}</h1>
          <p className="text-sm text-muted">{MEMBERS.lead}</p>
        </div>
        {members.isSuccess && <InviteButton />}
      </div>
      {members.isError && <Failure error={members.error} onRetry={() => void members.refetch()} />}
      {members.isPending && <Loading label={MEMBERS.loading} />}
      {members.data && (
        <Section title={MEMBERS.people}>
          <ul className="divide-y divide-line">
            {members.data.map((member) => (
              <MemberRow key={member.login} member={member} />
            ))}
          </ul>
        </Section>
      )}
      <InvitationList invitations={invitations.data ?? []} />
    </main>
  );
}
