export { readComment, type CommentPiece, type ReadComment } from './mentions.js';
export { commentRights, type CommentRights } from './may-change.js';
export { commentNotice, type CommentNoticeOf } from './comment-notice.js';
