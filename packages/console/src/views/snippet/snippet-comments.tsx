import { useEffect, useRef } from 'react';
import { useLocation } from 'react-router';
import { COMMENTS } from '../../texts/comments';
import { Thread } from '../comments/thread';

/** What was said of a snippet. */
export function SnippetComments({ site, snippet }: { site: string; snippet: string }) {
  const section = useRef<HTMLElement>(null);
  const isLinked = useLocation().hash === '#comments';
  useEffect(() => {
    if (isLinked) section.current?.scrollIntoView();
  }, [isLinked]);
  return (
    <section
      ref={section}
      id="comments"
      aria-label={COMMENTS.title}
      className="max-w-4xl scroll-mt-16 space-y-3"
    >
      <h2>{COMMENTS.title}</h2>
      <Thread site={site} on={{ snippet }} />
    </section>
  );
}
