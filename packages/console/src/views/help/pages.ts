/** What is under Help, in the order in which somebody needs it: files of `docs`, without their ending. */
export const HELP_GROUPS = [
  { key: 'start', pages: ['first-steps', 'tour'] },
  {
    key: 'work',
    pages: [
      'without-the-gateway',
      'reach',
      'recipes',
      'survey',
      'visits',
      'watching',
      'content-policy',
      'in-and-out',
      'members',
      'approvals',
      'comments',
      'history',
      'backups',
    ],
  },
  { key: 'look', pages: ['checks', 'errors', 'commands', 'settings', 'limits', 'operations'] },
  { key: 'depth', pages: ['how-it-works', 'gateway', 'insertion', 'security', 'architecture', 'figures'] },
] as const;

export type HelpPageName = (typeof HELP_GROUPS)[number]['pages'][number];

export const HELP_PAGES: readonly string[] = HELP_GROUPS.flatMap(({ pages }): readonly string[] => pages);
