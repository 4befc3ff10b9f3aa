import type { CommentResource } from '@pragmatica/contract';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { useLocation } from 'react-router';
import { useEditComment, useRemoveComment } from '../../api/comments';
import { fieldErrorsOf } from '../../api/field-errors';
import { COMMENTS } from '../../texts/comments';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { cn } from '../../ui/cn';
import { DangerDialog } from '../../ui/danger-dialog';
import { FormError } from '../../ui/field';
import { Time, timeWords } from '../../ui/time';
import { useToast } from '../../ui/toast';
import { CommentText } from './comment-text';
import { useTold } from './use-told';
import { WordsField } from './words-field';

interface CommentItemProps {
  readonly site: string;
  readonly comment: CommentResource;
  /** What it is on, where that is not plain. */
  readonly subject?: ReactNode;
}

/** One comment: who, when, what, and what can be done with it. */
export function CommentItem({ site, comment, subject }: CommentItemProps) {
  const { id, byName, at, editedAt, doneBy, doneAt } = comment;
  const [isEditing, setEditing] = useState(false);
  const item = useRef<HTMLLIElement>(null);
  const isLinked = useLocation().hash === `#comment-${id}`;
  useEffect(() => {
    if (isLinked) item.current?.scrollIntoView({ block: 'center' });
  }, [isLinked]);
  return (
    <li
      ref={item}
      id={`comment-${id}`}
      className={cn('space-y-1 rounded-lg py-2', isLinked && 'bg-primary-soft px-3')}
    >
      {subject}
      <p className="text-[13px] text-muted">
        <span className="font-medium text-ink">{byName}</span> · <Time at={at} />
        {editedAt !== null && ` · ${say(COMMENTS.edited, { when: timeWords(editedAt) })}`}
      </p>
      {isEditing ? (
        <EditForm site={site} comment={comment} onClose={() => setEditing(false)} />
      ) : (
        <CommentText site={site} text={comment.text} />
      )}
      {doneBy !== null && doneAt !== null && (
        <p className="text-[13px] text-good">
          {say(COMMENTS.doneBy, { by: doneBy, when: timeWords(doneAt) })}
        </p>
      )}
      {!isEditing && <Acts site={site} comment={comment} onEdit={() => setEditing(true)} />}
    </li>
  );
}

interface ActsProps {
  readonly site: string;
  readonly comment: CommentResource;
  readonly onEdit: () => void;
}

function Acts({
  site,
  comment: { id, byName: by, doneAt, canEdit, canClose, canRemove },
  onEdit,
}: ActsProps) {
  const [isAsked, setAsked] = useState(false);
  const toast = useToast();
  const edit = useEditComment(site, id, () => undefined);
  const remove = useRemoveComment(site, id, () => toast({ tone: 'done', title: COMMENTS.removed }));
  const isDone = doneAt !== null;
  if (!canEdit && !canClose && !canRemove) return null;
  return (
    <div className="flex flex-wrap gap-1">
      {canClose && (
        <Button
          size="small"
          look="quiet"
          isBusy={edit.isPending}
          aria-label={say(isDone ? COMMENTS.reopenOf : COMMENTS.markDoneOf, { by })}
          onClick={() => edit.mutate({ isDone: !isDone })}
        >
          {isDone ? COMMENTS.reopen : COMMENTS.markDone}
        </Button>
      )}
      {canEdit && (
        <Button size="small" look="quiet" aria-label={say(COMMENTS.editOf, { by })} onClick={onEdit}>
          {COMMENTS.edit}
        </Button>
      )}
      {canRemove && (
        <Button
          size="small"
          look="quiet"
          aria-label={say(COMMENTS.removeOf, { by })}
          onClick={() => setAsked(true)}
        >
          {COMMENTS.remove}
        </Button>
      )}
      <FormError error={edit.error} />
      <DangerDialog
        title={COMMENTS.removeTitle}
        description={COMMENTS.removeText}
        isOpen={isAsked}
        onOpenChange={setAsked}
        act={COMMENTS.remove}
        leave={COMMENTS.keep}
        isBusy={remove.isPending}
        error={remove.error}
        onAct={() => remove.mutate()}
      />
    </div>
  );
}

interface EditFormProps {
  readonly site: string;
  readonly comment: CommentResource;
  readonly onClose: () => void;
}

function EditForm({ site, comment, onClose }: EditFormProps) {
  const [text, setText] = useState(comment.text);
  const say = useTold();
  const edit = useEditComment(site, comment.id, (told) => {
    say(told);
    onClose();
  });
  const errors = fieldErrorsOf(edit.error);
  const save = (): void => {
    if (text.trim() !== '') edit.mutate({ text });
  };
  return (
    <form
      className="space-y-2"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <WordsField
        site={site}
        label={COMMENTS.words}
        value={text}
        error={errors.at('/text')}
        onChange={setText}
        onSubmit={save}
      />
      <div className="flex gap-2">
        <Button
          type="submit"
          look="primary"
          size="small"
          isBusy={edit.isPending}
          disabled={text.trim() === ''}
        >
          {COMMENTS.save}
        </Button>
        <Button size="small" look="quiet" onClick={onClose}>
          {COMMENTS.leave}
        </Button>
      </div>
      {errors.isEmpty && <FormError error={edit.error} />}
    </form>
  );
}
