import { readComment } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { siteMembersQuery } from '../../api/members';

/** What a comment says, with those whom it mentions set off. */
export function CommentText({ site, text }: { site: string; text: string }) {
  const members = useQuery(siteMembersQuery(site)).data ?? [];
  const { pieces } = readComment(
    text,
    members.map(({ login }) => login),
  );
  return (
    <p className="text-sm whitespace-pre-wrap [overflow-wrap:anywhere]">
      {pieces.map(({ text: said, login }, index) =>
        login === undefined ? (
          <span key={index}>{said}</span>
        ) : (
          <strong key={index} className="font-medium text-primary">
            {said}
          </strong>
        ),
      )}
    </p>
  );
}
