import { useQuery } from '@tanstack/react-query';
import { MessageSquare } from 'lucide-react';
import { useState } from 'react';
import { commentedQuery } from '../../api/comments';
import { COMMENTS } from '../../texts/comments';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { Thread } from './thread';

interface FindingCommentsProps {
  readonly site: string;
  readonly finding: string;
  readonly isAskedFor: boolean;
}

/** What was said of a finding: how much, and all of it when somebody wants to know. */
export function FindingComments({ site, finding, isAskedFor }: FindingCommentsProps) {
  const [isChosen, setChosen] = useState<boolean>();
  const isOpen = isChosen ?? isAskedFor;
  const open = useQuery(commentedQuery(site)).data?.find((one) => one.finding === finding)?.open ?? 0;
  return (
    <>
      <Button size="small" look="quiet" aria-expanded={isOpen} onClick={() => setChosen(!isOpen)}>
        <MessageSquare className="size-3.5" aria-hidden /> {say(COMMENTS.onFinding, { open })}
      </Button>
      {isOpen && (
        <div className="w-full border-t border-line pt-3">
          <Thread site={site} on={{ finding }} />
        </div>
      )}
    </>
  );
}
