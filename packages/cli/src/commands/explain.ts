import { nearest } from '@pragmatica/contract';
import { CHECKS, findCheck, pageRulesWords, placementWords, type ExampleSnippet } from '@pragmatica/core';
import type { Command } from 'commander';
import { CliError, EXIT } from '../errors.js';
import { clipped, colour, print, table } from '../output.js';

/** An example is to be seen, not to be copied. */
const MAX_LINE_LENGTH = 160;

export function explain(program: Command): void {
  program
    .command('explain [check]')
    .description('why a check exists, with a wrong and a right example; without a name, the list of all')
    .addHelpText('after', '\nExamples:\n  pragmatica explain\n  pragmatica explain same-code')
    .action((id: string | undefined) => {
      if (id === undefined) {
        const rows = CHECKS.map((check) => [colour.bold(check.id), check.area, check.severity, check.title]);
        print(table(['CHECK', 'AREA', 'USUALLY', 'LOOKS FOR'], rows));
        return;
      }
      const check = findCheck(id);
      if (!check) {
        const near = nearest(
          id,
          CHECKS.map((one) => one.id),
        );
        const hint = near === undefined ? '"pragmatica explain" lists them.' : `Did you mean "${near}"?`;
        throw new CliError(`There is no check "${id}". ${hint}`, EXIT.notFound);
      }
      print(`${colour.bold(check.title)}  ${colour.dim(`${check.id}, ${check.area}, ${check.severity}`)}\n`);
      print(check.why);
      if (check.isFixable)
        print('\nPragmatica can fix this for you: "pragmatica fix --all --preview" shows what would change.');
      if (check.given !== undefined) print(`\n${check.given}`);
      print(`\n${colour.red('Wrong')}`);
      for (const snippet of check.wrong) showExample(snippet);
      print(`\n${colour.green('Right')}`);
      for (const snippet of check.right) showExample(snippet);
    });
}

function showExample({ name, parts, state, include = [], exclude = [], needs = [] }: ExampleSnippet): void {
  const pages = include.length + exclude.length === 0 ? '' : `, ${pageRulesWords({ include, exclude })}`;
  const after = needs.length === 0 ? '' : `, must come after ${needs.join(' and ')}`;
  for (const { placement, code, statement } of parts) {
    print(
      `  ${colour.dim(`“${name}”, ${placementWords(placement)}${state === undefined ? '' : `, ${state}`}${pages}${after}:`)}`,
    );
    if (statement !== undefined) print(colour.dim(`    The provider says: “${statement}”`));
    for (const line of code.split('\n')) print(`    ${clipped(line, MAX_LINE_LENGTH)}`);
  }
}
