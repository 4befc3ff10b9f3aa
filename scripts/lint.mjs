import { spawn } from 'node:child_process';
import { ROOT, programOf } from './setup/paths.mjs';

// ESLint over everything, area by area: types of all at once take more memory than a process of Node.js has.
const AREAS = ['packages/core', 'packages/server', 'packages/console', 'test'];

const failed = [];
for (const area of [...AREAS, undefined]) {
  const files = area === undefined ? ['.', ...AREAS.flatMap((one) => ['--ignore-pattern', one])] : [area];
  if ((await lint(files)) !== 0) failed.push(area ?? 'the rest');
}
if (failed.length > 0) console.error(`ESLint has something to say about: ${failed.join(', ')}`);
process.exitCode = failed.length > 0 ? 1 : 0;

function lint(files) {
  return new Promise((resolve, reject) => {
    const child = spawn(programOf('eslint'), [...files, '--max-warnings', '0'], {
      cwd: ROOT,
      stdio: 'inherit',
    });
    child.once('error', reject);
    child.once('exit', (code) => resolve(code ?? 1));
  });
}
