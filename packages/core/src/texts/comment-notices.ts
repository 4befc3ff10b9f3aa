import { catalogue } from './catalogue.js';

/** What somebody gets by mail who is named in a comment. */
export const COMMENT_NOTICE_TEXTS = catalogue('core.comment-notices', {
  subject: '{by} commented: {about}',
  about: '{by} mentioned you in a comment.',
  on: 'On: {about}',
  answer: 'Answer here: {address}',
  why: 'You get this because your account has this mail address. You can change or remove it in your account.',
});
