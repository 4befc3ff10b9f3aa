import type { SiteResult } from '@pragmatica/contract';
import type { CommonOptions } from './context.js';
import { EXIT } from './errors.js';
import { colour, print, printJson, table } from './output.js';
import { COMMON } from './texts/common.js';

/** One line for each site; the command fails where one of them did. */
export function tellResults(results: readonly SiteResult[], { json }: CommonOptions): void {
  if (json) printJson(results);
  else if (results.length === 1) print(results[0]!.message);
  else
    print(
      table(
        ['SITE', '', 'RESULT'],
        results.map(({ site, isDone, message }) => [
          colour.bold(site),
          isDone ? colour.green('done') : colour.red(COMMON.notDone),
          message,
        ]),
      ),
    );
  if (results.some(({ isDone }) => !isDone)) process.exitCode = EXIT.found;
}
