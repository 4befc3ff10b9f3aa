import type { PresentPersonResource } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { PenLine, UserRound } from 'lucide-react';
import { Link } from 'react-router';
import { snippetsQuery } from '../api/queries';
import { COMMENTS } from '../texts/comments';
import { say } from '../texts/say';
import { useLiveSite } from './live-context';
import { sectionName } from './site-sections';

/** Who else looks at the site, and where; nothing where nobody does. */
export function PeopleHere({ site, place }: { site: string; place: string }) {
  const { people } = useLiveSite();
  const others = people.filter(({ isYou, place: at }) => !isYou || at === place);
  const isAtSnippet = others.some(({ place: at }) => at.startsWith('snippets/'));
  const snippets = useQuery({ ...snippetsQuery(site), enabled: isAtSnippet }).data;
  if (others.length === 0) return null;
  const nameOf = (at: string): string => {
    const [section = '', key] = at.split('/');
    if (section === 'snippets' && key !== undefined && key !== 'new')
      return snippets?.find((one) => one.key === key)?.name ?? COMMENTS.aSnippet;
    return sectionName(at);
  };
  return (
    <ul
      aria-label={COMMENTS.alsoHere}
      className="mb-3 flex flex-wrap justify-end gap-x-3 gap-y-1 text-[13px] text-muted"
    >
      {others.map((person) => {
        const Icon = person.isEditing ? PenLine : UserRound;
        return (
          <li key={`${person.login} ${person.place}`} className="flex items-center gap-1">
            <Icon className="size-3.5 shrink-0 text-primary" aria-hidden />
            <Link to={`/sites/${site}/${person.place}`} className="hover:underline">
              {wordsOf(person, person.place === place, nameOf(person.place))}
            </Link>
          </li>
        );
      })}
    </ul>
  );
}

function wordsOf({ name, isYou, isEditing }: PresentPersonResource, isHere: boolean, place: string): string {
  if (isYou) return COMMENTS.you;
  if (isEditing) return say(COMMENTS.someoneEditing, { name, place });
  return isHere ? say(COMMENTS.someoneHere, { name }) : say(COMMENTS.someoneElsewhere, { name, place });
}
