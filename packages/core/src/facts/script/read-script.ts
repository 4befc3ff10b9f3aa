import type { Program } from 'acorn';
import { parseBounded } from '../../bounds/parse-script.js';
import { tooMuchOf } from '../../bounds/too-much.js';
import type { ExecutionPhase } from '../types.js';
import type { Record } from './record.js';
import { ScriptWalker } from './script-walker.js';

export interface SyntaxProblem {
  /** Offset in the script. */
  readonly offset: number;
  readonly message: string;
}

/** Parses a script of the newest ECMAScript. @returns what is wrong where it cannot be parsed. @throws TooMuchError */
export function parseScript(code: string, isModule: boolean): Program | SyntaxProblem {
  try {
    return parseBounded(code, {
      sourceType: isModule ? 'module' : 'script',
      allowHashBang: false,
      allowReturnOutsideFunction: false,
    });
  } catch (error) {
    if (tooMuchOf(error)) throw error;
    const { pos, message } = error as { pos?: number; message: string };
    return { offset: pos ?? 0, message: message.replace(/ \(\d+:\d+\)$/, '') };
  }
}

export interface ScriptContext {
  /** Where the script's first character stands in the pasted text. */
  readonly base: number;
  readonly when: ExecutionPhase;
  readonly isModule: boolean;
}

/** Follows a script into the record. @returns what is wrong with its syntax, if anything */
export function readScript(record: Record, code: string, context: ScriptContext): SyntaxProblem | undefined {
  const program = parseScript(code, context.isModule);
  if ('message' in program) return program;
  new ScriptWalker(record, context.base, context.when, context.isModule).walk(program);
  return undefined;
}
