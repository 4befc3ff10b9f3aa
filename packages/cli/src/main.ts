import './speak-first.js';
import { CommanderError, type Command } from 'commander';
import { EXIT, describeError } from './errors.js';
import { note } from './output.js';
import { endPaging, writeOut } from './pager.js';
import { createProgram } from './program.js';
import { COMMON } from './texts/common.js';
import { say } from './texts/say.js';

// A variable that is empty counts as not set.
for (const [name, value] of Object.entries(process.env)) {
  if (name.startsWith('PRAGMATICA_') && value === '') Reflect.deleteProperty(process.env, name);
}

// Whoever reads the result may have seen enough, as `head` does: that is no failure.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EPIPE') process.exit(EXIT.done);
  throw error;
});

/** Only this file sets the exit status; commands return or throw. */
const program = createProgram('0.1.0');
for (const command of allCommands(program)) {
  command.exitOverride().configureOutput({
    writeOut,
    outputError: (text, write) => write(text.replace(/^error: /, 'pragmatica: ')),
  });
}

/** Not awaited at the top: what is built of this file is loaded as a script, which may not wait there. */
async function main(): Promise<void> {
  try {
    await program.parseAsync();
  } catch (error) {
    if (error instanceof CommanderError) process.exitCode = error.exitCode === 0 ? EXIT.done : EXIT.usage;
    else {
      const { line, exitCode } = describeError(error);
      note(say(COMMON.pragmaticaLine, { line }));
      process.exitCode = exitCode;
    }
  }

  await endPaging();
}

void main();

function allCommands(command: Command): Command[] {
  return [command, ...command.commands.flatMap(allCommands)];
}
