import type { CommentResource } from '@pragmatica/contract';
import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { ToggleGroup } from 'radix-ui';
import { useState } from 'react';
import { Link, useLocation } from 'react-router';
import { commentsQuery, type CommentState } from '../../api/comments';
import { findingsQuery, snippetsQuery } from '../../api/queries';
import { useSiteKey } from '../../layout/site-layout';
import { COMMENTS } from '../../texts/comments';
import { say } from '../../texts/say';
import { MoreButton } from '../../ui/more-button';
import { Empty, Failure, Loading } from '../../ui/states';
import { CommentItem } from './comment-item';

const STATES = ['open', 'done', 'all'] as const;

const NOTHING: Readonly<Record<CommentState, readonly [title: string, text: string]>> = {
  open: [COMMENTS.noneOpen, COMMENTS.noneOpenText],
  done: [COMMENTS.noneDone, COMMENTS.noneDoneText],
  all: [COMMENTS.none, COMMENTS.noneText],
};

/** What was said at a site, the newest first. */
export function CommentsView() {
  const site = useSiteKey();
  // A link leads to a comment whatever became of it.
  const { hash } = useLocation();
  const [state, setState] = useState<CommentState>(hash === '' ? 'open' : 'all');
  const comments = useInfiniteQuery(commentsQuery(site, state));
  const items = comments.data?.pages.flatMap((page) => page.items) ?? [];
  const [title, text] = NOTHING[state];
  return (
    <div className="max-w-4xl space-y-4">
      <div>
        <h1>{COMMENTS.title}</h1>
        <p className="text-sm text-muted">{COMMENTS.lead}</p>
      </div>
      <ToggleGroup.Root
        type="single"
        value={state}
        onValueChange={(value) => value && setState(value as CommentState)}
        aria-label={COMMENTS.which}
        className="inline-flex rounded-md border border-line-strong bg-raised p-0.5 text-sm"
      >
        {STATES.map((one) => (
          <ToggleGroup.Item
            key={one}
            value={one}
            className="rounded px-2.5 py-1 text-muted data-[state=on]:bg-primary-soft data-[state=on]:font-medium data-[state=on]:text-primary"
          >
            {COMMENTS[one]}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
      {comments.isPending && <Loading lines={3} label={COMMENTS.loading} />}
      {comments.isError && <Failure error={comments.error} onRetry={() => void comments.refetch()} />}
      {comments.data && items.length === 0 && <Empty title={title}>{text}</Empty>}
      {items.length > 0 && (
        <ul className="divide-y divide-line rounded-xl border border-line bg-surface px-4 sm:px-5">
          {items.map((comment) => (
            <CommentItem
              key={comment.id}
              site={site}
              comment={comment}
              subject={<Subject site={site} comment={comment} />}
            />
          ))}
        </ul>
      )}
      <MoreButton list={comments}>{COMMENTS.earlier}</MoreButton>
    </div>
  );
}

/** A link to what it is on, as long as that is there. */
function Subject({ site, comment: { snippet, finding, about } }: { site: string; comment: CommentResource }) {
  const snippets = useQuery({ ...snippetsQuery(site), enabled: snippet !== null }).data;
  const findings = useQuery({ ...findingsQuery(site), enabled: finding !== null }).data;
  const isThere =
    snippet !== null
      ? (snippets?.some(({ key }) => key === snippet) ?? true)
      : (findings?.items.some(({ id }) => id === finding) ?? true);
  if (!isThere) return <p className="text-[13px] text-muted">{say(COMMENTS.onGone, { about })}</p>;
  const to =
    snippet !== null ? `../snippets/${snippet}#comments` : `../findings#${encodeURIComponent(finding!)}`;
  return (
    <p className="text-[13px] text-muted">
      {COMMENTS.on}{' '}
      <Link to={to} className="text-primary underline">
        {about}
      </Link>
    </p>
  );
}
