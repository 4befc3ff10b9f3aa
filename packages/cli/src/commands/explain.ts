import { nearest } from '@pragmatica/contract';
import {
  CHECKS,
  checkAbout,
  findCheck,
  pageRulesWords,
  placementWords,
  type ExampleSnippet,
} from '@pragmatica/core';
import type { Command } from 'commander';
import { CliError, EXIT } from '../errors.js';
import { clipped, colour, print, printProse, table } from '../output.js';
import { PLAN } from '../texts/plan.js';
import { say } from '../texts/say.js';

/** An example is to be seen, not to be copied. */
const MAX_LINE_LENGTH = 160;

export function explain(program: Command): void {
  program
    .command('explain [check]')
    .description(PLAN.whyCheckExists)
    .addHelpText('after', PLAN.examplesPragmaticaExplain)
    .action((id: string | undefined) => {
      if (id === undefined) {
        const rows = CHECKS.map((check) => [
          colour.bold(check.id),
          check.area,
          check.severity,
          checkAbout(check.id).title,
        ]);
        print(table(['CHECK', 'AREA', 'USUALLY', PLAN.looks], rows));
        return;
      }
      const check = findCheck(id);
      if (!check) {
        const near = nearest(
          id,
          CHECKS.map((one) => one.id),
        );
        const hint = near === undefined ? PLAN.pragmaticaExplainLists : say(PLAN.didYouMean, { near });
        throw new CliError(say(PLAN.thereNoCheck, { id, hint }), EXIT.notFound);
      }
      const { title, why } = checkAbout(check.id);
      print(`${colour.bold(title)}  ${colour.dim(`${check.id}, ${check.area}, ${check.severity}`)}\n`);
      printProse(why);
      if (check.isFixable) print(PLAN.pragmaticaCanFix);
      if (check.given !== undefined) print(`\n${check.given}`);
      print(`\n${colour.red(PLAN.wrong)}`);
      for (const snippet of check.wrong) showExample(snippet);
      print(`\n${colour.green(PLAN.right)}`);
      for (const snippet of check.right) showExample(snippet);
    });
}

function showExample({ name, parts, state, include = [], exclude = [], needs = [] }: ExampleSnippet): void {
  const about = [
    ...(state === undefined ? [] : [state]),
    ...(include.length + exclude.length === 0 ? [] : [pageRulesWords({ include, exclude })]),
    ...(needs.length === 0 ? [] : [say(PLAN.mustComeAfter, { needs })]),
  ];
  for (const { placement, code, statement } of parts) {
    const details = [placementWords(placement), ...about].join(', ');
    print(`  ${colour.dim(say(PLAN.exampleHead, { name, details }))}`);
    if (statement !== undefined) print(colour.dim(say(PLAN.providerSaysStatement, { statement })));
    for (const line of code.split('\n')) print(`    ${clipped(line, MAX_LINE_LENGTH)}`);
  }
}
