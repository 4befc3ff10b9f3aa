export const SURVEY_TEXTS = {
  onNoPage: 'On none of the pages seen.',
  onAllPages: '{expected, plural, one {On the one page} other {On all # pages}} where it should be.',
  missingOn: 'On {present} of {expected} pages; missing on {where}.',
  pagesAndMore: '{pages} and {more, plural, one {one more} other {# more}}',
} as const;
