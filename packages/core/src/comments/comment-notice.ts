import { COMMENT_NOTICE_TEXTS as T } from '../texts/comment-notices.js';
import { say } from '../texts/say.js';
import { subjectOf, type Notice } from '../watch/index.js';

export interface CommentNoticeOf {
  /** Name of the site. */
  readonly site: string;
  /** Name of whoever wrote it. */
  readonly by: string;
  /** The snippet’s name, or what the finding says. */
  readonly about: string;
  readonly text: string;
  /** Where it is shown. */
  readonly address: string;
}

/** What somebody gets by mail who is named in a comment. */
export function commentNotice({ site, by, about, text, address }: CommentNoticeOf): Notice {
  const quoted = text
    .split('\n')
    .map((line) => `> ${line}`.trimEnd())
    .join('\n');
  return {
    subject: subjectOf(site, [say(T.subject, { by, about })]),
    text: `${[say(T.about, { by }), say(T.on, { about }), quoted, say(T.answer, { address }), T.why].join('\n\n')}\n`,
  };
}
