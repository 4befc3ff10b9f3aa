import { catalogue } from './catalogue.js';

export const PLAN_TEXTS = catalogue('core.plan', {
  since: ' since {date}, by {by}',
  hasNoCode: 'It has no code yet.',
  switchedOffSince: 'It is switched off{since}.',
  archiveSince: 'It is in the archive{since}.',
  changedDraftSo: 'Changed in the draft so that it would run here: saved, but not published.',
  savedButNot: 'Saved, but not published.',
  nameAdded: '“{name}” is added.',
  nameGoes: '“{name}” is removed.',
  nameHasOther: '“{name}” has different code.',
  whatStaysComes: 'The rest is in a different order.',
});
