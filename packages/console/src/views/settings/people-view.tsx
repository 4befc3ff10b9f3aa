import type { SiteMemberResource } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { UserRound } from 'lucide-react';
import { useState } from 'react';
import { invitationsQuery, siteMembersQuery, useSiteRole } from '../../api/members';
import { siteQuery } from '../../api/queries';
import { useSiteKey } from '../../layout/site-layout';
import { MEMBERS } from '../../texts/members';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { DangerDialog } from '../../ui/danger-dialog';
import { FormError } from '../../ui/field';
import { useMay } from '../../ui/may';
import { Section } from '../../ui/section';
import { Failure, Loading } from '../../ui/states';
import { useToast } from '../../ui/toast';
import { RuleSection } from '../approvals/rule-section';
import { InvitationList } from '../members/invitation-list';
import { InviteButton } from '../members/invite-dialog';
import { RoleSelect } from '../members/role-select';

/** Who works on a site. */
export function PeopleView() {
  const key = useSiteKey();
  const mayChange = useMay('own');
  const site = useQuery(siteQuery(key)).data?.data;
  const members = useQuery(siteMembersQuery(key));
  const invitations = useQuery({ ...invitationsQuery, enabled: mayChange });
  const open = (invitations.data ?? []).filter(({ sites }) => sites.some(({ site: one }) => one === key));
  return (
    <div className="max-w-4xl space-y-4">
      <Section title={MEMBERS.siteTitle} text={MEMBERS.siteText}>
        {members.isPending && <Loading lines={2} label={MEMBERS.loading} />}
        {members.isError && <Failure error={members.error} onRetry={() => void members.refetch()} />}
        <ul className="divide-y divide-line">
          {members.data?.map((member) => (
            <PersonRow key={member.login} site={key} member={member} />
          ))}
        </ul>
        {site && mayChange && <InviteButton site={site} />}
      </Section>
      <InvitationList invitations={open} />
      <RuleSection site={key} />
    </div>
  );
}

function PersonRow({ site, member }: { site: string; member: SiteMemberResource }) {
  const { login, name, role, isEverywhere, isYou } = member;
  const mayChange = useMay('own');
  const toast = useToast();
  const change = useSiteRole(site, (next) =>
    toast({ tone: 'done', title: next === null ? say(MEMBERS.removed, { name }) : MEMBERS.changed }),
  );
  const [isLeaving, setLeaving] = useState(false);
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1.5 py-2.5">
      <UserRound className="size-4 shrink-0 text-muted" aria-hidden />
      <div className="min-w-44 flex-1 [overflow-wrap:anywhere]">
        <p>
          <span className="font-medium">{name}</span>{' '}
          <span className="text-muted">
            {login}
            {isYou && ` · ${MEMBERS.you}`}
          </span>
        </p>
        <FormError error={change.error} />
      </div>
      {isEverywhere || !mayChange ? (
        <span className="text-muted">
          {isEverywhere ? say(MEMBERS.atAllSites, { role }) : MEMBERS.roles[role]}
        </span>
      ) : (
        <>
          <RoleSelect
            label={say(MEMBERS.roleOf, { name })}
            value={role}
            isDisabled={change.isPending}
            onChange={(next) => change.mutate({ member: login, role: next })}
          />
          <Button
            size="small"
            look="quiet"
            aria-label={say(MEMBERS.removeOf, { name })}
            onClick={() => setLeaving(true)}
          >
            {MEMBERS.remove}
          </Button>
        </>
      )}
      <DangerDialog
        title={say(MEMBERS.removeTitle, { name })}
        description={MEMBERS.removeFromSite}
        isOpen={isLeaving}
        onOpenChange={setLeaving}
        act={MEMBERS.remove}
        leave={MEMBERS.cancel}
        isBusy={change.isPending}
        onAct={() => {
          setLeaving(false);
          change.mutate({ member: login, role: null });
        }}
      />
    </li>
  );
}
