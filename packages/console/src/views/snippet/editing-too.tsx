import { useLiveSite } from '../../layout/live-context';
import { COMMENTS } from '../../texts/comments';
import { say } from '../../texts/say';

/** Says who else is changing a snippet just now, before both save. */
export function EditingToo({ snippet }: { snippet: string }) {
  const { people } = useLiveSite();
  const there = people.filter(({ place, isEditing }) => isEditing && place === `snippets/${snippet}`);
  const names = there.filter(({ isYou }) => !isYou).map(({ name }) => name);
  const isYou = there.length > names.length;
  return (
    <div role="status" className="max-w-4xl space-y-2 text-sm">
      {names.length > 0 && (
        <p className="rounded-lg bg-primary-soft p-3 text-primary">
          {say(COMMENTS.editingToo, { names, count: names.length })}
        </p>
      )}
      {isYou && <p className="rounded-lg bg-primary-soft p-3 text-primary">{COMMENTS.youToo}</p>}
    </div>
  );
}
