import {
  CHECKS,
  pageRulesWords,
  placementWords,
  type Area,
  type Check,
  type ExampleSnippet,
} from '@pragmatica/core';
import { COUNT_LIMITS, QUOTAS, RATE_LIMITS, SIZE_LIMITS, openApiDocument } from '@pragmatica/contract';
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
  'docs/limits.md': limits,
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
    'Results go to standard output, everything else to standard error. `--json` prints any result as JSON. Colour appears on a terminal only, and never with `NO_COLOR`. On a terminal, text is wrapped and tables are fitted to its width; `COLUMNS` says otherwise. What does not fit goes through `PAGER`, if that is set. Commands speak the [language](../languages/README.md) of whoever signed in last, or the one that `PRAGMATICA_LANGUAGE` sets. `pragmatica completion` prints what bash, zsh and fish need to complete words.',
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

const MIB = 1 << 20;
const COUNTED = {
  sites: 'sites',
  members: 'members',
  invitations: 'invitations that are open',
  recipes: 'recipes',
  snippets: 'snippets in a draft, off and archived ones included',
  waivers: 'findings that are accepted',
  approvals: 'requests for approval that are open',
  comments: 'comments, those that are done as well',
  handovers: 'links to blocks to paste that work',
  webhooks: 'webhooks',
  tokens: 'tokens that work',
  passkeys: 'passkeys',
  identities: 'connections with the identity provider',
} as const;
const RATES = {
  'calls-of-member': 'a member, with all sessions and tokens',
  'calls-of-stranger': 'an address, without an account: signing in, links, wrong tokens',
  'calls-of-installation': 'the installation, from everywhere',
} as const;

const KEPT = {
  'evidence-megabytes': 'evidence and pictures of visits, in MB',
  'surveyed-pages': 'pages of all its surveys together',
} as const;

function limits(): string {
  const counts = Object.entries(COUNT_LIMITS) as [keyof typeof COUNTED, { most: number; of: string }][];
  const rates = Object.entries(RATE_LIMITS) as [keyof typeof RATES, { most: number }][];
  return [
    NOTE,
    '# Limits',
    'Whatever comes in is bounded: how often, how many, how large. Somebody who reaches a limit is told which, and what to do. Those with a name can be set otherwise for an installation: `PRAGMATICA_LIMITS="tokens=10, calls-of-member=600"`.',
    '## How often',
    'Every answer of the API says how many calls are left, in `RateLimit` and `RateLimit-Policy` (draft-ietf-httpapi-ratelimit-headers). One too many is answered with 429 and `Retry-After`. Wrong passwords and codes are slowed down more: five tries, then delays that double.',
    table(
      ['name', 'calls in a minute', 'of'],
      rates.map(([name, { most }]) => row(`\`${name}\``, String(most), RATES[name])),
    ),
    '## How many',
    table(
      ['name', 'at most', 'what', 'of'],
      counts.map(([name, { most, of }]) => row(`\`${name}\``, String(most), COUNTED[name], `each ${of}`)),
    ),
    '## How much is kept',
    'Beside the set of a site. The oldest goes first; the newest stays, however much it is. Releases are kept for ever; the trail as long as `PRAGMATICA_TRAIL_DAYS` says.',
    table(
      ['name', 'at most', 'what', 'of'],
      (Object.entries(QUOTAS) as [keyof typeof KEPT, { most: number }][]).map(([name, { most }]) =>
        row(`\`${name}\``, String(most), KEPT[name], 'each site'),
      ),
    ),
    'Beside these, the twelve newest surveys of each host are kept, and the sixty newest rounds of visits with as many questions.',
    '## How large',
    table(
      ['what', 'at most'],
      [
        row('a call', `${SIZE_LIMITS.body / MIB} MiB`),
        row('a call that brings a whole site in a file', `${SIZE_LIMITS['site-file'] / MIB} MiB`),
      ],
    ),
    'Single inputs, as the API’s own description has them. Text is counted in UTF-16 code units, as JavaScript counts.',
    table(
      ['input', 'at most', 'of'],
      inputLimits().map(([input, most, calls]) => row(`\`${input}\``, most, calls)),
    ),
  ].join('\n\n');
}

interface Bounded {
  readonly $ref?: string;
  readonly maxLength?: number;
  readonly maxItems?: number;
  readonly items?: Bounded;
  readonly properties?: Readonly<Record<string, Bounded>>;
  readonly anyOf?: readonly Bounded[];
}

const FEW_CALLS = 3;

/** Where the inputs of calls end, by name of the input and limit. */
function inputLimits(): [input: string, most: string, calls: string][] {
  const document = openApiDocument('1.0.0') as unknown as {
    readonly paths: Readonly<
      Record<
        string,
        Readonly<
          Record<
            string,
            { operationId: string; requestBody?: { content: Record<string, { schema: Bounded }> } }
          >
        >
      >
    >;
    readonly components: { readonly schemas: Readonly<Record<string, Bounded>> };
  };
  const found = new Map<string, Set<string>>();
  const look = (given: Bounded, path: string, call: string, seen: readonly string[]): void => {
    if (given.$ref !== undefined && seen.includes(given.$ref)) return;
    const next = given.$ref === undefined ? seen : [...seen, given.$ref];
    const schema =
      given.$ref === undefined ? given : document.components.schemas[given.$ref.split('/').at(-1)!]!;
    const note = (most: string): void => {
      const key = `${path.slice(1)}\n${most}`;
      found.set(key, (found.get(key) ?? new Set()).add(call));
    };
    if (schema.maxLength !== undefined) note(`${schema.maxLength} characters`);
    if (schema.maxItems !== undefined) note(`${schema.maxItems} of them`);
    for (const one of schema.anyOf ?? []) look(one, path, call, next);
    if (schema.items) look(schema.items, `${path}/*`, call, next);
    for (const [name, one] of Object.entries(schema.properties ?? {}))
      look(one, `${path}/${name}`, call, next);
  };
  for (const operations of Object.values(document.paths))
    for (const { operationId, requestBody } of Object.values(operations))
      for (const { schema } of Object.values(requestBody?.content ?? {})) look(schema, '', operationId, []);
  return [...found]
    .map(([key, calls]): [string, string, string] => {
      const [input = '', most = ''] = key.split('\n');
      const names = [...calls].sort();
      const more = names.length - FEW_CALLS;
      return [
        input,
        most,
        more > 0 ? `${names.slice(0, FEW_CALLS).join(', ')} and ${more} more` : names.join(', '),
      ];
    })
    .sort(([a], [b]) => (a < b ? -1 : 1));
}
