import {
  CHECKS,
  pageRulesWords,
  placementWords,
  type Area,
  type Check,
  type ExampleSnippet,
} from '@pragmatica/core';
import { gatewaySettingsSchema } from '@pragmatica/gateway';
import { settingsSchema } from '@pragmatica/server';
import { createProgram } from '../../packages/cli/dist/program.js';

type Command = ReturnType<typeof createProgram>;
type Argument = Command['registeredArguments'][number];
type Option = Command['options'][number];

/** Papers that are written by the code, by file name. */
export const REFERENCES: Readonly<Record<string, () => string>> = {
  'docs/commands.md': commands,
  'docs/checks.md': checks,
  'docs/settings.md': settings,
};

/** For whoever would edit it; readers do not see it. */
const NOTE =
  '<!-- Written by the code. To write it anew: UPDATE_DOCS=1 npm test -- test/papers/papers.test.ts -->';

/** As Markdown has it in a table: outside of code `<` would begin a tag. */
const cell = (text: string): string =>
  text
    .replace(/\s+/g, ' ')
    .replaceAll('|', '\\|')
    .replace(/`[^`]*`|</g, (found) => (found === '<' ? '&lt;' : found));
const row = (...cells: readonly string[]): string => `| ${cells.map(cell).join(' | ')} |`;
const table = (head: readonly string[], rows: readonly string[]): string =>
  [row(...head), row(...head.map(() => '---')), ...rows].join('\n');

/** Options that nearly every command has are told once. */
const COMMON_OPTIONS = new Set(['--server', '--json', '--site', '--all-sites', '--help']);

function commands(): string {
  const program = createProgram('0.0.0');
  const groups = new Map<string, Command[]>();
  for (const command of program.createHelp().visibleCommands(program)) {
    if (command.name() === 'help') continue;
    const heading = command.helpGroup().replace(/:$/, '');
    groups.set(heading, [...(groups.get(heading) ?? []), command]);
  }
  return [
    NOTE,
    '# Commands',
    `\`npx pragmatica --help\` lists the commands by task, and each has \`--help\` with examples.`,
    'Results go to standard output, everything else to standard error. `--json` prints any result as JSON. Colour appears on a terminal only, and never with `NO_COLOR`. On a terminal, text is wrapped and tables are fitted to its width; `COLUMNS` says otherwise. What does not fit goes through `PAGER`, if that is set. `PRAGMATICA_LANGUAGE` says everything in [another language](../languages/README.md). `pragmatica completion` prints what bash, zsh and fish need to complete words.',
    '## For nearly every command',
    table(
      ['option', 'what it does'],
      [
        row(
          '`--site <site>`',
          'the site, or several separated by commas; `PRAGMATICA_SITE` stands in for it',
        ),
        row('`--all-sites`', 'every site, one after the other'),
        row('`--server <address>`', 'address of the service; `PRAGMATICA_SERVER` stands in for it'),
        row('`--json`', 'print the result as JSON'),
      ],
    ),
    '`PRAGMATICA_TOKEN` stands in for the stored sign-in, for a build pipeline.',
    '## Exit codes',
    table(
      ['code', 'means'],
      [
        row('0', 'done'),
        row('1', 'something is wrong (`verify`, `check`, `order`, `coverage`, `push`, a failed `survey`)'),
        row('2', 'wrong input'),
        row('3', 'not signed in'),
        row('4', 'not found'),
        row('5', 'changed in the meantime, or already exists'),
        row('6', 'the service could not be reached'),
        row('7', 'anything else'),
      ],
    ),
    ...[...groups].flatMap(([heading, some]) => [
      `## ${heading}`,
      ...some.flatMap((command) => leaves(command, '')).flatMap(commandEntry),
    ]),
  ].join('\n\n');
}

interface Leaf {
  readonly path: string;
  readonly command: Command;
}

/** Commands that do something, by their whole name. */
function leaves(command: Command, before: string): Leaf[] {
  const path = `${before}${command.name()}`;
  const below = command
    .createHelp()
    .visibleCommands(command)
    .filter((one) => one.name() !== 'help');
  // What has nothing of its own only holds others together.
  const own = below.length === 0 || command.options.length > 0;
  return [...(own ? [{ path, command }] : []), ...below.flatMap((one) => leaves(one, `${path} `))];
}

const written = (argument: Argument): string => {
  const name = `${argument.name()}${argument.variadic ? '...' : ''}`;
  return argument.required ? `<${name}>` : `[${name}]`;
};

function commandEntry({ path, command }: Leaf): string[] {
  const usage = [path, ...command.registeredArguments.map(written)].join(' ');
  const options = command
    .createHelp()
    .visibleOptions(command)
    .filter(({ long }) => !COMMON_OPTIONS.has(long ?? ''));
  return [
    `### \`${usage}\``,
    command.description().replaceAll('<', '\\<'),
    ...(options.length === 0
      ? []
      : [
          table(
            ['option', 'what it does'],
            options.map((one) => row(`\`${one.flags}\``, optionWords(one))),
          ),
        ]),
  ];
}

function optionWords({ description, argChoices }: Option): string {
  return argChoices ? `${description} (${argChoices.join(', ')})` : description;
}

const AREAS: Readonly<Record<Area, string>> = {
  placement: 'Placement',
  order: 'Order',
  duplicates: 'Duplicates',
  overlap: 'Overlap',
  activation: 'Activation',
  delivery: 'Delivery',
  safety: 'Safety',
};
const SEVERITY = { error: 'error', warning: 'warning', advice: 'suggestion' } as const;

function checks(): string {
  return [
    NOTE,
    '# Checks',
    `${CHECKS.length} checks look at the whole set after each change. Each has an example here of what is wrong and what is right; \`pragmatica explain CHECK\` shows the same.`,
    ...Object.entries(AREAS).flatMap(([area, name]) => [
      `## ${name}`,
      ...CHECKS.filter((check) => check.area === area).flatMap(checkEntry),
    ]),
  ].join('\n\n');
}

function checkEntry({
  id,
  severity,
  title,
  why,
  isFixable,
  asks = [],
  given,
  wrong,
  right,
}: Check): string[] {
  const needs = asks.map((ask) => ASKS[ask]);
  return [
    `### \`${id}\``,
    `**${title}** (usually ${/^[aeiou]/.test(SEVERITY[severity]) ? 'an' : 'a'} ${SEVERITY[severity]}${isFixable ? ', can be fixed automatically' : ''}). ${why.replaceAll('<', '\\<')}`,
    ...(needs.length === 0 ? [] : [`Finds more with ${needs.join(' and ')}.`]),
    ...(given === undefined ? [] : [given]),
    'Wrong:',
    ...wrong.flatMap(exampleEntry),
    'Right:',
    ...right.flatMap(exampleEntry),
  ];
}

/** An example is to be seen, not to be copied. */
const LONGEST_LINE = 160;

function exampleEntry({
  name,
  parts,
  state,
  include = [],
  exclude = [],
  needs = [],
}: ExampleSnippet): string[] {
  const about = [
    ...(state === undefined ? [] : [state]),
    ...(include.length + exclude.length === 0 ? [] : [pageRulesWords({ include, exclude })]),
    ...(needs.length === 0 ? [] : [`must come after ${needs.join(', ')}`]),
  ];
  return parts.flatMap(({ placement, code, statement }) => [
    `“${name}”, ${[placementWords(placement), ...about].join(', ')}${statement === undefined ? '' : `. The provider says: “${statement}”`}`
      .replaceAll('<', '&lt;')
      .replaceAll('*', '\\*'),
    fenced(
      code.split('\n').map((line) => (line.length > LONGEST_LINE ? `${line.slice(0, LONGEST_LINE)}…` : line)),
    ),
  ]);
}

/** A fence that nothing in the code closes (CommonMark, 4.5). */
function fenced(lines: readonly string[]): string {
  const longest = Math.max(
    0,
    ...lines.flatMap((line) => [...line.matchAll(/`+/g)].map(([run]) => run.length)),
  );
  const fence = '`'.repeat(Math.max(3, longest + 1));
  return [`${fence}text`, ...lines, fence].join('\n');
}

const ASKS = {
  survey: 'a survey of the pages',
  files: 'a survey that has read the loaded files',
  hosts: 'the site’s hosts',
  recipes: 'recipes',
} as const;

function settings(): string {
  const shapes = { service: settingsSchema.shape, gateway: gatewaySettingsSchema.shape };
  const names = [...new Set(Object.values(shapes).flatMap((shape) => Object.keys(shape)))];
  const rows = names.map((name) => {
    const readers = Object.entries(shapes).filter(([, shape]) => name in shape);
    const schema = (readers[0]![1] as Readonly<Record<string, { description?: string | undefined }>>)[name]!;
    return row(
      `\`${name}\``,
      readers.map(([reader]) => reader).join(', '),
      defaultOf(schema),
      schema.description ?? '',
    );
  });
  return [
    NOTE,
    '# Settings',
    `Environment variables, or a file \`.env\` (see \`.env.example\`).`,
    table(['variable', 'read by', 'default', 'what it is for'], rows),
    'As root, PostgreSQL runs as the user `postgres`, since it refuses to run as root. If that user may not enter the project’s folder, the database is kept in `/var/lib/pragmatica`, and the start says so.',
    '## For the demo',
    table(
      ['variable', 'default', 'what it is for'],
      [
        row('`PRAGMATICA_DEMO_SITE_PORT`', '`4790`', 'port of the demo site’s own server'),
        row('`PRAGMATICA_DEMO_PROVIDER_PORT`', '`4791`', 'port of the made-up providers'),
        row(
          '`PRAGMATICA_DEMO_NODE_PORT`',
          '`4792`',
          'port of the demo site as a Node.js server with the middleware',
        ),
        row('`PRAGMATICA_DEMO_NGINX_PORT`', '`4793`', 'port of the demo site behind nginx'),
        row('`PRAGMATICA_NGINX`', '', 'path of nginx, when it is not found'),
      ],
    ),
  ].join('\n\n');
}

/** What counts where the variable is not set, as one would write it. */
function defaultOf(schema: unknown): string {
  const parsed = (
    schema as { safeParse: (value: unknown) => { success: boolean; data?: unknown } }
  ).safeParse(undefined);
  const { data } = parsed;
  if (data === undefined || data === '' || (Array.isArray(data) && data.length === 0)) return '';
  if (typeof data === 'boolean') return data ? '`1`' : '`0`';
  return `\`${typeof data === 'string' || typeof data === 'number' ? data : JSON.stringify(data)}\``;
}
