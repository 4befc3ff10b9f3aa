import { mkdtemp, mkdir, readFile, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import asc from 'assemblyscript/asc';
import ts from 'typescript';

// Compiles the page machine (packages/core/src/insert/machine) to WebAssembly. The sources are the ones that
// JavaScript runs; only `memory.ts` and `pass.ts` are others. `--check` compares with what is committed instead of writing it.

const core = fileURLToPath(new URL('../packages/core/', import.meta.url));
const target = join(core, 'src/insert/scanner-module.ts');
/** Files of the folder that are JavaScript's alone. */
const LEFT_OUT = new Set(['memory.ts', 'pass.ts', 'scanner.ts']);
/** Where the files of its own go. */
const OWN = { 'memory.ts': 'machine', 'pass.ts': 'machine', 'skeleton.ts': '.', 'index.ts': '.' };

/**
 * TypeScript as the machine's files use it, as AssemblyScript: numbers are 32-bit integers, nothing is imported as a type
 * alone, specifiers have no extension and private names no sign.
 */
function translate(name, source) {
  const edits = [];
  const replace = (node, text) => edits.push({ from: node.getStart(file), to: node.getEnd(), text });
  const drop = (from, to) => edits.push({ from, to, text: '' });
  const file = ts.createSourceFile(name, source, ts.ScriptTarget.ES2023);
  const visit = (node) => {
    if (node.kind === ts.SyntaxKind.NumberKeyword) replace(node, 'i32');
    else if (ts.isPrivateIdentifier(node)) replace(node, node.text.replace('#', '_'));
    else if (ts.isImportClause(node) && node.isTypeOnly)
      drop(node.getStart(file), node.namedBindings.getStart(file));
    else if (ts.isImportSpecifier(node) && node.isTypeOnly)
      drop(node.getStart(file), node.name.getStart(file));
    else if (ts.isStringLiteral(node) && node.text.endsWith('.js') && isSpecifier(node))
      replace(node, `'${node.text.slice(0, -3)}'`);
    ts.forEachChild(node, visit);
  };
  const isSpecifier = (node) =>
    file.statements.some((statement) => 'moduleSpecifier' in statement && statement.moduleSpecifier === node);
  visit(file);
  let text = '';
  let at = 0;
  for (const edit of edits.sort((x, y) => x.from - y.from)) {
    text += source.slice(at, edit.from) + edit.text;
    at = edit.to;
  }
  return text + source.slice(at);
}

export async function compileScanner() {
  const folder = await mkdtemp(join(tmpdir(), 'scanner-'));
  try {
    await mkdir(join(folder, 'machine'));
    const machine = join(core, 'src/insert/machine');
    for (const name of await readdir(machine)) {
      if (!LEFT_OUT.has(name))
        await writeFile(
          join(folder, 'machine', name),
          translate(name, await readFile(join(machine, name), 'utf8')),
        );
    }
    for (const [name, place] of Object.entries(OWN))
      await writeFile(join(folder, place, name), await readFile(join(core, 'assembly', name), 'utf8'));
    const { error, stderr } = await asc.main([
      join(folder, 'index.ts'),
      ...[
        '--baseDir',
        folder,
        '--outFile',
        'scanner.wasm',
        '--runtime',
        'minimal',
        '-O3',
        '--noAssert',
        ...(process.env.SCANNER_DEBUG ? ['--debug'] : []),
      ],
      ...['--converge', '--enable', 'simd', '--use', 'abort='],
    ]);
    if (error) throw new Error(`The page machine does not compile:\n${stderr.toString()}`);
    return await readFile(join(folder, 'scanner.wasm'));
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

function moduleText(wasm) {
  const text = `/** The page machine in WebAssembly, made by scripts/build-scanner.mjs from the files in machine/. */\nexport const SCANNER_MODULE =\n  '${wasm.toString('base64')}';\n`;
  return text;
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const text = moduleText(await compileScanner());
  if (process.argv.includes('--check')) {
    if (text !== (await readFile(target, 'utf8'))) {
      console.error('scanner-module.ts is not what its sources compile to: run "npm run build:scanner".');
      process.exitCode = 1;
    }
  } else await writeFile(target, text);
}
