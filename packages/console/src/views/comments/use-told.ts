import type { ToldComment } from '@pragmatica/contract';
import { COMMENTS } from '../../texts/comments';
import { say } from '../../texts/say';
import { useToast } from '../../ui/toast';

/** Says who hears of a comment, and who does not. */
export function useTold(): (told: ToldComment) => void {
  const toast = useToast();
  return ({ told, notTold, unknown }) => {
    const missing = [
      ...(notTold.length === 0 ? [] : [say(COMMENTS.notTold, { names: notTold, count: notTold.length })]),
      ...(unknown.length === 0 ? [] : [say(COMMENTS.unknown, { names: unknown })]),
    ];
    if (told.length === 0 && missing.length === 0) return;
    toast({
      tone: missing.length === 0 ? 'done' : 'problem',
      title: told.length === 0 ? COMMENTS.sent : say(COMMENTS.told, { names: told, count: told.length }),
      text: missing.join(' '),
    });
  };
}
