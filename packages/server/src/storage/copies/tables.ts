/** How a table of the database travels with a backup. */
export interface CopiedTable {
  readonly name: string;
  /** Rows that stay behind, as a condition; all travel when left out. */
  readonly without?: string;
  /** Columns that mean something in this database only: they get their defaults anew. */
  readonly leaves?: readonly string[];
}

/**
 * Every table that travels, each after those that it names by a foreign key. One more table is one more line, or one in
 * `LEFT_OUT`; a test compares them with the database.
 */
export const COPIED: readonly CopiedTable[] = [
  { name: 'member' },
  { name: 'site' },
  { name: 'recipe' },
  { name: 'release_content' },
  { name: 'survey_text' },
  // Whoever is signed in signs in again; a token goes on.
  { name: 'credential', without: `kind = 'session'` },
  { name: 'token_site', without: `credential_id in (select id from credential where kind = 'session')` },
  { name: 'membership' },
  { name: 'recovery_code' },
  { name: 'passkey' },
  { name: 'identity' },
  { name: 'invitation' },
  { name: 'invited_role' },
  { name: 'host' },
  { name: 'host_access' },
  { name: 'host_policy' },
  { name: 'policy_report' },
  { name: 'snippet' },
  { name: 'part' },
  { name: 'recognised_use' },
  { name: 'release' },
  { name: 'pointer' },
  { name: 'site_summary', leaves: ['changed'] },
  { name: 'waiver' },
  { name: 'step_tick' },
  { name: 'comment' },
  { name: 'approval_rule' },
  { name: 'approval' },
  { name: 'approval_link' },
  { name: 'handover' },
  { name: 'given_page' },
  { name: 'paste_boxes' },
  { name: 'pasted_block' },
  { name: 'survey' },
  { name: 'survey_file' },
  { name: 'survey_page' },
  { name: 'survey_shape' },
  { name: 'survey_schedule' },
  { name: 'sighting' },
  { name: 'composition' },
  { name: 'visit_round' },
  { name: 'visit' },
  { name: 'visit_screenshot' },
  { name: 'site_watch' },
  { name: 'webhook' },
  { name: 'standing' },
  { name: 'told_standing' },
  { name: 'notice' },
  { name: 'audit' },
  { name: 'trail_change' },
  { name: 'trail_link' },
  { name: 'backup_rule' },
];

/** Tables that do not travel, and why. */
export const LEFT_OUT: Readonly<Record<string, string>> = {
  migration: 'The manifest names what was done to the schema.',
  presence: 'Who looks at what is true for seconds.',
  backup: 'Which backups lie on a machine is that machine’s.',
};

const BY_NAME = new Map(COPIED.map((table) => [table.name, table]));

export function isCopied(name: string): boolean {
  return BY_NAME.has(name);
}
