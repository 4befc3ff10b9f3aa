import type { ApiClient, DiagnosisResource } from '@pragmatica/contract';
import type { Command } from 'commander';
import { clientFor, withCommon, type CommonOptions } from '../context.js';
import { CliError, EXIT } from '../errors.js';
import { colour, print, printJson, printProse, Progress } from '../output.js';
import { DOCTOR } from '../texts/doctor.js';
import { PLAN } from '../texts/plan.js';
import { say } from '../texts/say.js';

interface DoctorOptions extends CommonOptions {
  readonly onlyWrong?: boolean;
}

const MARKS = { well: colour.green('✓'), warning: colour.yellow('!'), problem: colour.red('✗') } as const;

/** Whether the installation is well. */
export function doctor(program: Command): void {
  withCommon(program.command('doctor'))
    .description(DOCTOR.description)
    .option('--only-wrong', DOCTOR.onlyWrong)
    .action(async ({ onlyWrong, ...options }: DoctorOptions) => {
      const all = await examined(clientFor(options));
      const wrong = all.filter(({ health }) => health !== 'well');
      const problems = wrong.filter(({ health }) => health === 'problem').length;
      if (problems > 0) process.exitCode = EXIT.found;
      if (options.json) {
        printJson(onlyWrong ? wrong : all);
        return;
      }
      for (const one of onlyWrong ? wrong : all) report(one);
      const words = { problems, warnings: wrong.length - problems };
      print(wrong.length === 0 ? colour.green(DOCTOR.allWell) : `\n${say(DOCTOR.found, words)}`);
    });
}

async function examined(client: ApiClient): Promise<readonly DiagnosisResource[]> {
  const abort = new AbortController();
  const stop = (): void => abort.abort();
  process.once('SIGINT', stop);
  const progress = new Progress();
  try {
    for await (const event of client.stream('examineInstallation', {}, abort.signal)) {
      if (event.type === 'done') return event.diagnoses;
      progress.update(say(DOCTOR.asking, { done: event.done, of: event.of }));
    }
  } finally {
    progress.end();
    process.off('SIGINT', stop);
  }
  throw new CliError(PLAN.serviceBrokeOff, EXIT.failed);
}

function report({ title: name, about, health, said, advice }: DiagnosisResource): void {
  const line =
    about === null ? say(DOCTOR.line, { name, said }) : say(DOCTOR.lineAbout, { name, about, said });
  printProse(`${MARKS[health]} ${line}`);
  if (advice !== '') printProse(colour.dim(`  → ${advice}`));
}
