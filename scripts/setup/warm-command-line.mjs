import { writeFileSync } from 'node:fs';
import { CODE_CACHE, start } from '../../packages/cli/bin/start.js';

// Runs the command line once and keeps what V8 made of it: what every command begins with is compiled then.
process.argv = [process.argv[0], process.argv[1], '--help'];
const script = start();
process.on('exit', () => writeFileSync(CODE_CACHE, script.createCachedData()));
