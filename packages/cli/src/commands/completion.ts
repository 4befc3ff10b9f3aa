import { Argument, Option, type Command } from 'commander';
import { knownWords } from '../completion/known.js';
import { SHELLS, SHELL_NAMES, type ShellName } from '../completion/scripts.js';
import { wantedNext } from '../completion/words.js';
import { defaultServer } from '../config.js';
import { clientFor } from '../context.js';
import { print } from '../output.js';
import { COMPLETION } from '../texts/completion.js';

export function completion(program: Command): void {
  program
    .command('completion')
    .description(COMPLETION.description)
    .addArgument(new Argument('<shell>').choices(SHELL_NAMES))
    .addHelpText('after', COMPLETION.examples)
    .action((shell: ShellName) => print(SHELLS[shell].script.trimEnd()));
  // What the shells ask at each press of the key.
  program
    .command('complete', { hidden: true })
    .addOption(new Option('--shell <shell>').choices(SHELL_NAMES).makeOptionMandatory())
    .argument('[words...]')
    .action(async (words: string[], { shell }: { shell: ShellName }) => {
      const last = words.at(-1) ?? '';
      const { candidates, kind, site } = wantedNext(program, words);
      const server = process.env['PRAGMATICA_SERVER'] ?? defaultServer();
      const named = site ?? process.env['PRAGMATICA_SITE'];
      const known = last.startsWith('-') ? [] : await knownWords(kind, clientFor({ server }), named);
      for (const candidate of [...candidates, ...known])
        if (candidate.word.startsWith(last)) print(SHELLS[shell].line(candidate));
    });
}
