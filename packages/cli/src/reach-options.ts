import {
  DEVICES,
  HoursTextError,
  parseWeekly,
  normalizeLimits,
  type Device,
  type Hours,
  type Limits,
  type VisitorRules,
} from '@pragmatica/core';
import { Option, type Command } from 'commander';
import { CliError } from './errors.js';
import { COMMON } from './texts/common.js';
import { say } from './texts/say.js';

export interface ReachOptions {
  readonly onlyOn?: 'staging' | 'live' | 'both';
  readonly devices?: string[];
  readonly hours?: string;
  readonly closed?: string[];
  readonly onDay?: string[];
  readonly firstDay?: string;
  readonly lastDay?: string;
  readonly consent?: string[];
  readonly visitors?: 'first' | 'returning' | 'all';
  readonly after?: string;
  readonly scrolled?: string;
  readonly onLeaving?: boolean;
  readonly onceIn?: string;
  readonly minWidth?: string;
  readonly maxWidth?: string;
  readonly always?: boolean;
}

/** The options that bound a reach beside the pages. */
export function withReach(command: Command): Command {
  return command
    .addOption(new Option('--only-on <environment>', 'where').choices(['staging', 'live', 'both']))
    .addOption(new Option('--devices <device...>', COMMON.which).choices([...DEVICES, 'all']))
    .option('--hours <hours>', COMMON.weeklyHoursLike)
    .option('--closed <day...>', COMMON.closedEveryYear)
    .option('--on-day <day=hours...>', COMMON.otherHoursOne)
    .option('--first-day <day>', COMMON.notBeforeDay)
    .option('--last-day <day>', COMMON.notAfterDay)
    .option('--consent <purpose...>', COMMON.onlyConsentThese)
    .addOption(new Option('--visitors <who>', COMMON.whom).choices(['first', 'returning', 'all']))
    .option('--after <seconds>', COMMON.waitSoLong)
    .option('--scrolled <percent>', COMMON.waitUntilSo)
    .option('--on-leaving', COMMON.waitUntilVisitor)
    .option('--once-in <days>', COMMON.mostOnceSo)
    .option('--min-width <pixels>', COMMON.onlyWindowsLeast)
    .option('--max-width <pixels>', COMMON.onlyWindowsMost)
    .option('--always', COMMON.takeAwayEvery);
}

/** The limits after the options; undefined when none of them is about limits. @throws CliError */
export function readLimits(options: ReachOptions, old: Limits = {}): Limits | undefined {
  const named = Object.keys(options).filter((name) => NAMES.has(name));
  if (named.length === 0) return undefined;
  const base: Limits = options.always ? {} : old;
  const limits: Limits = {
    ...base,
    ...(options.onlyOn === undefined ? {} : { environment: orNone(options.onlyOn, 'both') }),
    ...(options.devices === undefined
      ? {}
      : { devices: options.devices.includes('all') ? undefined : (options.devices as Device[]) }),
    hours: readHours(options, base.hours),
    ...(options.consent === undefined
      ? {}
      : { consent: options.consent.filter((purpose) => purpose !== 'none') }),
    visitor: readVisitor(options, base.visitor),
  } as Limits;
  return normalizeLimits(limits) ?? {};
}

const NAMES: ReadonlySet<string> = new Set([
  'onlyOn',
  'devices',
  'hours',
  'closed',
  'onDay',
  'firstDay',
  'lastDay',
  'consent',
  'visitors',
  'after',
  'scrolled',
  'onLeaving',
  'onceIn',
  'minWidth',
  'maxWidth',
  'always',
]);

function orNone<T extends string>(value: T, none: string): T | undefined {
  return value === none ? undefined : value;
}

function readHours(options: ReachOptions, old: Hours | undefined): Hours | undefined {
  const { hours, closed, onDay, firstDay, lastDay } = options;
  if (hours === 'always') return undefined;
  if ([hours, closed, onDay, firstDay, lastDay].every((value) => value === undefined)) return old;
  const exceptions = new Map((old?.exceptions ?? []).map((entry) => [entry.date, entry.spans]));
  for (const typed of onDay ?? []) {
    const [date, spans] = typed.split('=');
    if (!date || spans === undefined) throw new CliError(say(COMMON.writeDayHours, { typed }));
    exceptions.set(date, spans === 'closed' ? [] : (weeklyOf(`mon ${spans}`).mon ?? []));
  }
  const days = closed?.filter((day) => day !== 'none') ?? old?.closed ?? [];
  const next: Hours = {
    weekly: hours === undefined ? old?.weekly : weeklyOf(hours),
    closed: days.length > 0 ? days : undefined,
    exceptions: exceptions.size > 0 ? [...exceptions].map(([date, spans]) => ({ date, spans })) : undefined,
    first: firstDay === undefined ? old?.first : orNone(firstDay, 'none'),
    last: lastDay === undefined ? old?.last : orNone(lastDay, 'none'),
  };
  return withoutUndefined(next);
}

function weeklyOf(text: string): NonNullable<Hours['weekly']> {
  try {
    return parseWeekly(text);
  } catch (error) {
    if (error instanceof HoursTextError) throw new CliError(error.message);
    throw error;
  }
}

function readVisitor(options: ReachOptions, old: VisitorRules = {}): VisitorRules {
  const { visitors, onLeaving } = options;
  return withoutUndefined({
    ...old,
    ...(visitors === undefined ? {} : { who: orNone(visitors, 'all') }),
    ...(onLeaving === undefined ? {} : { onLeaving }),
    ...numberOf('afterSeconds', options.after, '--after'),
    ...numberOf('afterScroll', options.scrolled, '--scrolled'),
    ...numberOf('everyDays', options.onceIn, '--once-in'),
    ...numberOf('minWidth', options.minWidth, '--min-width'),
    ...numberOf('maxWidth', options.maxWidth, '--max-width'),
  } as VisitorRules);
}

function numberOf(field: string, typed: string | undefined, option: string): Record<string, number> {
  if (typed === undefined) return {};
  const value = Number(typed);
  if (typed.trim() === '' || !Number.isFinite(value) || value < 0)
    throw new CliError(say(COMMON.optionTakesNumber, { option, typed }));
  return { [field]: value };
}

function withoutUndefined<T extends object>(value: T): T {
  return Object.fromEntries(Object.entries(value).filter(([, entry]) => entry !== undefined)) as T;
}
