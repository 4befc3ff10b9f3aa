import type { Command } from 'commander';
import { HISTORY } from '../../texts/history.js';
import { chain } from './chain.js';
import { look } from './look.js';
import { undo } from './undo.js';

/** Who did what; undoing it; and whether the trail is whole. */
export function history(program: Command): void {
  const group = program.command('history').description(HISTORY.group).addHelpText('after', HISTORY.examples);
  for (const register of [look, undo, chain]) register(group);
}
