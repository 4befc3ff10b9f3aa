import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { commentsQuery, useAddComment, type CommentSubject } from '../../api/comments';
import { fieldErrorsOf } from '../../api/field-errors';
import { COMMENTS } from '../../texts/comments';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { FormError } from '../../ui/field';
import { MoreButton } from '../../ui/more-button';
import { Failure, Loading } from '../../ui/states';
import { CommentItem } from './comment-item';
import { useTold } from './use-told';
import { WordsField } from './words-field';

/** What was said on one thing, the oldest first, and where more is said. What is done is folded away. */
export function Thread({ site, on }: { site: string; on: CommentSubject }) {
  const comments = useInfiniteQuery(commentsQuery(site, 'all', on));
  const [showsDone, setShowsDone] = useState(false);
  const items = (comments.data?.pages.flatMap((page) => page.items) ?? []).toReversed();
  const done = items.filter(({ doneAt }) => doneAt !== null);
  const shown = showsDone ? items : items.filter(({ doneAt }) => doneAt === null);
  return (
    <div className="space-y-3">
      {comments.isPending && <Loading lines={1} label={COMMENTS.loading} />}
      {comments.isError && <Failure error={comments.error} onRetry={() => void comments.refetch()} />}
      <MoreButton list={comments}>{COMMENTS.earlier}</MoreButton>
      {done.length > 0 && (
        <Button size="small" look="quiet" aria-expanded={showsDone} onClick={() => setShowsDone(!showsDone)}>
          {say(COMMENTS.showDone, { count: done.length })}
        </Button>
      )}
      {shown.length > 0 && (
        <ul className="divide-y divide-line">
          {shown.map((comment) => (
            <CommentItem key={comment.id} site={site} comment={comment} />
          ))}
        </ul>
      )}
      <AddForm site={site} on={on} />
    </div>
  );
}

function AddForm({ site, on }: { site: string; on: CommentSubject }) {
  const [text, setText] = useState('');
  const told = useTold();
  const add = useAddComment(site, on, (added) => {
    setText('');
    told(added);
  });
  const errors = fieldErrorsOf(add.error);
  const send = (): void => {
    if (text.trim() !== '' && !add.isPending) add.mutate(text);
  };
  return (
    <form
      className="space-y-2"
      onSubmit={(event) => {
        event.preventDefault();
        send();
      }}
    >
      <WordsField
        site={site}
        label={COMMENTS.write}
        value={text}
        error={errors.at('/text')}
        onChange={setText}
        onSubmit={send}
      />
      <Button type="submit" size="small" isBusy={add.isPending} disabled={text.trim() === ''}>
        {COMMENTS.send}
      </Button>
      {errors.isEmpty && <FormError error={add.error} />}
    </form>
  );
}
