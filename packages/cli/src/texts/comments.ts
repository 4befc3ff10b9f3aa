import { catalogue } from '@pragmatica/core';

/** What people say to each other of snippets and findings. */
export const COMMENTS = catalogue('cli.comments', {
  group: 'comments on snippets and findings',
  examples:
    '\nExamples:\n  pragmatica comment list --site skerrywick\n  pragmatica comment add "Still wanted, @wenna?" --snippet harbour-chat --site skerrywick\n  pragmatica comment done 12 --site skerrywick',
  list: 'list comments, the newest first; those that are done are left out',
  all: 'those that are done as well',
  onSnippet: 'key of the snippet',
  onFinding: 'id of the finding, as "check" prints it',
  none: 'No comments.',
  noneOpen: 'No open comments. --all lists those that are done.',
  headBy: 'BY',
  headWhen: 'WHEN',
  headOn: 'ON',
  headText: 'COMMENT',
  doneBy: '(done: {by})',
  more: 'Only the newest {count} are shown.',
  add: 'comment on a snippet or a finding; @ and a login mentions somebody, who gets a mail',
  which: 'Say what it is on: --snippet or --finding.',
  added: 'Added comment {id} to: {about}',
  told: '{names} {count, plural, one {gets} other {get}} a mail.',
  notTold: '{names} {count, plural, one {gets} other {get}} no mail: no address, or no mail server here.',
  unknown: 'Nobody who sees this site is called {names}.',
  edit: 'change the words of your comment',
  edited: 'Comment {id} is changed.',
  done: 'say that a comment is done with',
  isDone: 'Comment {id} is done.',
  reopen: 'say that a comment is not done, after all',
  isOpen: 'Comment {id} is open again.',
  remove: 'remove your comment; owners remove any',
  removed: 'Comment {id} is removed.',
  follow: 'show what happens to a site and who is there, until you stop it with Ctrl+C',
  followExamples:
    '\nExamples:\n  pragmatica follow --site skerrywick\n  pragmatica follow --site skerrywick --json',
  following: 'Following {site}. Ctrl+C ends it.',
  nobody: 'Nobody else is there.',
  there: 'There: {people}.',
  person: '{name}{isEditing, select, true { (editing)} other {}}',
  changed:
    '{what, select, comments {A comment was written or changed} other {Something was changed}}{by, select, none {.} other { by {by}.}}',
  over: 'The service has ended the connection. Start this again to go on.',
});
