interface HelpGroup {
  /** Names its title in the texts. */
  readonly key: 'start' | 'work' | 'look' | 'depth';
  /** Files of `docs`, without their ending. One more is one more name here. */
  readonly pages: readonly string[];
}

/** What stands under Help, in the order in which somebody needs it. */
export const HELP_GROUPS: readonly HelpGroup[] = [
  { key: 'start', pages: ['tour', 'how-it-works'] },
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
    ],
  },
  { key: 'look', pages: ['checks', 'errors', 'commands', 'settings'] },
  { key: 'depth', pages: ['gateway', 'insertion', 'security', 'architecture', 'figures'] },
];

export const HELP_PAGES: readonly string[] = HELP_GROUPS.flatMap(({ pages }) => pages);
