import { spawn } from 'node:child_process';

// node in-folder.mjs FOLDER PROGRAM ARGUMENT…: runs a program in another folder, with the environment as it is.
const [folder, program, ...args] = process.argv.slice(2);
spawn(program, args, { cwd: folder, stdio: 'inherit' }).once(
  'exit',
  (code) => (process.exitCode = code ?? 1),
);
