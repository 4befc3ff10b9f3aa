import type { Argument, Command, Option } from 'commander';

/** What may be typed next. */
export interface Candidate {
  readonly word: string;
  /** What it is, in a few words. */
  readonly about: string;
}

/** What a place on the command line wants: words that are known, or keys of some kind that only the service knows. */
export interface Wanted {
  readonly candidates: readonly Candidate[];
  /** The name of the argument or of the option's value, as the help text has it: `site`, `snippet`, `file`. */
  readonly kind: string | undefined;
  /** The site that is named on the line already. */
  readonly site: string | undefined;
}

/**
 * What may be typed at the end of a line.
 *
 * @param typed - the words behind the program's name; the last one is being typed, and may be empty
 */
export function wantedNext(program: Command, typed: readonly string[]): Wanted {
  const before = typed.slice(0, -1);
  const last = typed.at(-1) ?? '';
  let command = program;
  let open: Option | undefined;
  let site: string | undefined;
  let filled = 0;
  for (const word of before) {
    if (open && !word.startsWith('-')) {
      if (open.attributeName() === 'site') site = word;
      if (!open.variadic) open = undefined;
      continue;
    }
    open = undefined;
    if (word.startsWith('-')) {
      const [flag, value] = word.split('=', 2) as [string, string?];
      const option = command.options.find((one) => one.long === flag || one.short === flag);
      if (option && takesValue(option)) {
        if (value === undefined) open = option;
        else if (option.attributeName() === 'site') site = value;
      }
      continue;
    }
    const next = command.commands.find((one) => one.name() === word || one.aliases().includes(word));
    if (next && filled === 0) command = next;
    else filled++;
  }
  const none = { candidates: [], kind: undefined, site };
  if (last.startsWith('-')) return { ...none, candidates: flagsOf(command) };
  if (open) return { ...none, ...ofValue(open, open.argChoices) };
  const argument = command.registeredArguments[filled] ?? variadic(command.registeredArguments);
  const candidates = filled === 0 ? subcommands(command) : [];
  if (!argument) return { ...none, candidates };
  const { kind, candidates: words } = ofValue(argument, argument.argChoices);
  return { ...none, kind, candidates: [...candidates, ...words] };
}

function takesValue(option: Option): boolean {
  return option.required || option.optional;
}

function variadic(args: readonly Argument[]): Argument | undefined {
  const last = args.at(-1);
  return last?.variadic ? last : undefined;
}

function ofValue(of: Option | Argument, choices: readonly string[] | undefined): Omit<Wanted, 'site'> {
  const name = 'flags' in of ? /[<[]([^\]>.]+)/.exec(of.flags)?.[1] : of.name();
  return { kind: name, candidates: (choices ?? []).map((word) => ({ word, about: '' })) };
}

function subcommands(command: Command): Candidate[] {
  const help = command.createHelp();
  return help.visibleCommands(command).map((one) => ({ word: one.name(), about: one.description() }));
}

function flagsOf(command: Command): Candidate[] {
  const help = command.createHelp();
  const flags = [...help.visibleOptions(command), ...help.visibleGlobalOptions(command)];
  return flags.flatMap(({ long, description }) => (long ? [{ word: long, about: description }] : []));
}
