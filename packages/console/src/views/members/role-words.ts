import type { MemberDetail } from '@pragmatica/contract';
import { MEMBERS } from '../../texts/members';
import { say } from '../../texts/say';

/** What somebody may do where, in a line. */
export function roleWords({ role, sites }: Pick<MemberDetail, 'role' | 'sites'>): string {
  const words = [
    ...(role === null ? [] : [say(MEMBERS.atAllSites, { role })]),
    ...sites.map((at) => say(MEMBERS.atSite, { site: at.siteName, role: at.role })),
  ];
  return words.length === 0 ? MEMBERS.noSites : words.join(' · ');
}
