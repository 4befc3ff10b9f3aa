import type { Command } from 'commander';
import { add } from './add.js';
import { copy } from './copy.js';
import { edit } from './edit.js';
import { history, list, show } from './look.js';
import { move } from './move.js';
import { reach } from './reach.js';
import { remove } from './remove.js';
import { switches } from './switches.js';
import { SNIPPET } from '../../texts/snippet.js';

export function snippet(program: Command): void {
  const group = program.command('snippet').description(SNIPPET.addLookChange);
  for (const register of [add, list, show, history, edit, reach, move, switches, copy, remove])
    register(group);
}
