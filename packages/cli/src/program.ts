import { Command } from 'commander';
import { account, session, token } from './commands/account.js';
import { adopt, ignore } from './commands/adopt.js';
import { approval } from './commands/approvals.js';
import { backup } from './commands/backup/index.js';
import { check } from './commands/check.js';
import { checklist, tick } from './commands/checklist.js';
import { comment } from './commands/comments.js';
import { completion } from './commands/completion.js';
import { coverage } from './commands/coverage.js';
import { doctor } from './commands/doctor.js';
import { explain } from './commands/explain.js';
import { field } from './commands/field.js';
import { fix } from './commands/fix.js';
import { history } from './commands/history/index.js';
import { importFile } from './commands/import.js';
import { insertCommand } from './commands/insert.js';
import { member } from './commands/members.js';
import { notices } from './commands/notices.js';
import { order } from './commands/order.js';
import { page } from './commands/page.js';
import { follow } from './commands/follow.js';
import { fragments } from './commands/fragments.js';
import { line } from './commands/line.js';
import { paste } from './commands/paste.js';
import { pages } from './commands/pages.js';
import { policy } from './commands/policy.js';
import { plan } from './commands/plan.js';
import { place } from './commands/place.js';
import { preview } from './commands/preview.js';
import { promote } from './commands/promote.js';
import { pull, push } from './commands/pull.js';
import { read } from './commands/read.js';
import { recipe } from './commands/recipe/index.js';
import { exportSet } from './commands/export.js';
import { diff, publish, releases, restore } from './commands/releases.js';
import { signIn } from './commands/sign-in.js';
import { sightings } from './commands/sightings.js';
import { site, sites } from './commands/sites.js';
import { snippet } from './commands/snippet/index.js';
import { survey } from './commands/survey.js';
import { verify } from './commands/verify.js';
import { visit, visits } from './commands/visits.js';
import { waive } from './commands/waive.js';
import { watch, webhook } from './commands/watch.js';
import { weigh } from './commands/weigh.js';
import { why } from './commands/why.js';
import { COMMON, GROUP_NAMES } from './texts/common.js';
import { terminalWidth } from './terminal-width.js';

/** Every command, by what somebody is about to do, in the order of the help text. One more is one more file and one name here. */
const GROUPS: readonly (readonly [heading: string, commands: readonly ((program: Command) => void)[]])[] = [
  [GROUP_NAMES.sites, [signIn, sites, site]],
  [GROUP_NAMES.snippets, [snippet, read, place, field, recipe, checklist, tick, comment]],
  [GROUP_NAMES.checks, [check, fix, waive, order, explain]],
  [GROUP_NAMES.pages, [plan, pages, page, survey, sightings, adopt, ignore, coverage]],
  [GROUP_NAMES.publishing, [diff, preview, approval, publish, releases, restore, promote, history, follow]],
  [GROUP_NAMES.seeing, [verify, why, visits, visit, weigh, watch, webhook, notices]],
  [GROUP_NAMES.delivery, [line, fragments, paste, insertCommand, policy]],
  [GROUP_NAMES.files, [exportSet, importFile, pull, push]],
  [GROUP_NAMES.access, [account, member, token, session, backup, doctor]],
  [GROUP_NAMES.shell, [completion]],
];

export function createProgram(version: string): Command {
  const program = new Command('pragmatica')
    .description(COMMON.manageScriptSnippets)
    .version(version)
    .showSuggestionAfterError()
    // What stands behind a command is that command's, though a command above it has an option of the same name.
    .enablePositionalOptions()
    .configureHelp({ showGlobalOptions: true, minWidthToWrap: 20 })
    .configureOutput({ getOutHelpWidth: terminalWidth, getErrHelpWidth: terminalWidth })
    .addHelpText('after', COMMON.firstRoundPragmatica);
  for (const [heading, commands] of GROUPS) {
    program.commandsGroup(heading);
    for (const register of commands) register(program);
  }
  return program;
}
