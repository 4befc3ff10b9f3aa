import type { BackupRuleInput, BackupRuleResource } from '@pragmatica/contract';
import { Option, type Command } from 'commander';
import { clientFor, withCommon, type CommonOptions } from '../../context.js';
import { printJson, printProse, when } from '../../output.js';
import { BACKUP } from '../../texts/backup.js';
import { say } from '../../texts/say.js';
import { wholeNumber } from '../../whole-number.js';
import { collect } from './backup-file.js';

interface PlanOptions extends CommonOptions {
  readonly at?: string;
  readonly zone?: string;
  readonly keepDays?: number;
  readonly keepWeeks?: number;
  readonly keepMonths?: number;
  readonly recipient?: string[];
  readonly readable?: boolean;
  readonly off?: boolean;
  readonly on?: boolean;
}

export function plan(group: Command): void {
  withCommon(group.command('plan'))
    .description(BACKUP.plan)
    .option('--at <schedule>', BACKUP.planAt)
    .option('--zone <zone>', BACKUP.planZone)
    .option('--keep-days <days>', BACKUP.keepDays, wholeNumber)
    .option('--keep-weeks <weeks>', BACKUP.keepWeeks, wholeNumber)
    .option('--keep-months <months>', BACKUP.keepMonths, wholeNumber)
    .addOption(new Option('--recipient <key>', BACKUP.planRecipient).argParser(collect))
    .addOption(new Option('--readable', BACKUP.planReadable).conflicts('recipient'))
    .addOption(new Option('--off', BACKUP.planTurnOff).conflicts('on'))
    .option('--on', BACKUP.planTurnOn)
    .action(async (options: PlanOptions) => {
      const client = clientFor(options);
      const { rule } = (await client.call('listBackups', {})).data;
      const wanted = changed(rule, options);
      const now = wanted ? (await client.call('setBackupRule', { body: wanted })).data : rule;
      if (options.json) printJson(now);
      else reportPlan(now);
    });
}

/** What was asked for; undefined where nothing was. */
function changed(rule: BackupRuleResource, options: PlanOptions): BackupRuleInput | undefined {
  const { at, zone, keepDays, keepWeeks, keepMonths, recipient, readable, off, on } = options;
  const said = [at, zone, keepDays, keepWeeks, keepMonths, recipient, readable, off, on];
  if (said.every((one) => one === undefined)) return undefined;
  const { keep } = rule;
  return {
    isOn: off ? false : on ? true : rule.isOn,
    cron: at ?? rule.cron,
    zone: zone ?? rule.zone,
    keep: {
      days: keepDays ?? keep.days,
      weeks: keepWeeks ?? keep.weeks,
      months: keepMonths ?? keep.months,
    },
    recipients: readable ? [] : (recipient ?? rule.recipients),
  };
}

/** When backups are made, and how many are kept. */
export function reportPlan({
  isOn,
  cron,
  words,
  zone,
  keep,
  nextAt,
  folder,
  recipients,
}: BackupRuleResource): void {
  if (!isOn) printProse(BACKUP.planOff);
  else
    printProse(
      say(BACKUP.planOn, { words: words === '' ? say(BACKUP.planCron, { cron }) : words, zone, ...keep }),
    );
  if (nextAt !== null) printProse(say(BACKUP.planNext, { next: when(nextAt) }));
  printProse(say(BACKUP.planFolder, { folder }));
  printProse(recipients.length > 0 ? say(BACKUP.planSealed, { count: recipients.length }) : BACKUP.planPlain);
}
