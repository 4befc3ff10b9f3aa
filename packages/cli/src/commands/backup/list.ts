import type { KeptBackup } from '@pragmatica/contract';
import { byteWords } from '@pragmatica/core';
import type { Command } from 'commander';
import { clientFor, withCommon, type CommonOptions } from '../../context.js';
import { print, printJson, printProse, table, when } from '../../output.js';
import { BACKUP } from '../../texts/backup.js';
import { LOCALE, say } from '../../texts/say.js';
import { reportPlan } from './plan.js';

export function list(group: Command): void {
  withCommon(group.command('list'))
    .description(BACKUP.list)
    .action(async (options: CommonOptions) => {
      const { data } = await clientFor(options).call('listBackups', {});
      if (options.json) {
        printJson(data.items);
        return;
      }
      if (data.items.length === 0) print(BACKUP.none);
      else
        print(
          table(
            [BACKUP.headId, BACKUP.headMade, BACKUP.headBy, BACKUP.headSize, BACKUP.headWhere],
            data.items.map((item) => [
              String(item.id),
              when(item.at),
              item.by ?? BACKUP.bySchedule,
              item.bytes === null ? '' : byteWords(item.bytes, LOCALE),
              whereWords(item),
            ]),
          ),
        );
      printProse('');
      reportPlan(data.rule);
    });
}

function whereWords({ state, file, machine, problem, doneRows, allRows }: KeptBackup): string {
  switch (state) {
    case 'waiting':
      return BACKUP.isWaiting;
    case 'running':
      return allRows === null
        ? BACKUP.isRunningYet
        : say(BACKUP.isRunning, { done: doneRows, rows: allRows });
    case 'failed':
      return say(BACKUP.isFailed, { problem: problem ?? '' });
    case 'done':
      return say(BACKUP.onMachine, { file: file ?? '', machine: machine ?? '' });
  }
}
