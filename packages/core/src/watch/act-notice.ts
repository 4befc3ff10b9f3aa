import { ACT_NOTICE_TEXTS as T } from '../texts/act-notices.js';
import { say } from '../texts/say.js';
import { subjectOf, type Notice } from './notice.js';

/** Something that somebody has done and others should hear of. */
export type Act =
  | {
      readonly kind: 'published';
      readonly by: string;
      readonly release: number;
      readonly environments: readonly string[];
      readonly message: string;
      /** Where there were errors: what they are, and why it was published all the same. */
      readonly forced: { readonly reason: string; readonly titles: readonly string[] } | null;
    }
  | {
      readonly kind: 'restored';
      readonly by: string;
      readonly release: number;
      readonly environment: string;
    }
  | { readonly kind: 'asked'; readonly by: string; readonly message: string }
  | {
      readonly kind: 'decided';
      readonly by: string;
      readonly asker: string;
      readonly decision: 'approved' | 'declined' | 'withdrawn';
      readonly message: string;
      readonly note: string;
    };

/** What a notice of an act needs to know besides. */
export interface ActNoticeOf {
  readonly site: string;
  /** When it was done, in the site's zone, in words. */
  readonly moment: string;
  /** Where it is shown. */
  readonly address: string;
}

/** Whether people get a mail of it: what somebody has to decide, has decided, or dared. Programs are told of all. */
export function isForPeople(act: Act): boolean {
  switch (act.kind) {
    case 'asked':
      return true;
    case 'decided':
      return act.decision !== 'withdrawn';
    case 'published':
      return act.forced !== null;
    case 'restored':
      return false;
  }
}

/** A message about something that somebody has done. */
export function actNoticeOf(act: Act, { site, moment, address }: ActNoticeOf): Notice {
  const { subject, paragraphs } = wordsOf(act, moment, address);
  return { subject: subjectOf(site, [subject]), text: `${paragraphs.join('\n\n')}\n` };
}

interface ActWords {
  readonly subject: string;
  readonly paragraphs: readonly string[];
}

function wordsOf(act: Act, moment: string, address: string): ActWords {
  switch (act.kind) {
    case 'published': {
      const { forced, release, by, environments, message } = act;
      return {
        subject: say(forced ? T.forcedSubject : T.publishedSubject, { release }),
        paragraphs: [
          say(T.published, { by, release, environments, message, moment }),
          ...(forced
            ? [
                [T.forced, ...forced.titles.map((title) => say(T.error, { title }))].join('\n'),
                say(T.reason, { reason: forced.reason }),
              ]
            : []),
          say(T.releaseLink, { address }),
        ],
      };
    }
    case 'restored':
      return {
        subject: say(T.restoredSubject, act),
        paragraphs: [say(T.restored, { ...act, moment }), say(T.releaseLink, { address })],
      };
    case 'asked':
      return {
        subject: say(T.askedSubject, act),
        paragraphs: [say(T.asked, act), say(T.askedLink, { address }), T.askedVoid],
      };
    case 'decided':
      return decidedWords(act, address);
  }
}

function decidedWords(act: Extract<Act, { kind: 'decided' }>, address: string): ActWords {
  const [subject, next] = {
    approved: [T.approvedSubject, T.approvedNext] as const,
    declined: [T.declinedSubject, T.declinedNext] as const,
    withdrawn: [T.withdrawnSubject, T.withdrawnNext] as const,
  }[act.decision];
  const { by, asker, message, note } = act;
  return {
    subject: say(subject, { by, asker }),
    paragraphs: [
      say(T.decided, { message }),
      ...(note === '' ? [] : [say(T.note, { by, note })]),
      say(next, { address }),
    ],
  };
}
