import { parseScript } from './script/read-script.js';
import type { Language } from './types.js';

const TAG = /<(?:!--|\/?[a-z][a-z0-9-]*(?=[\s/>]))/i;

/** What a pasted text is written in. */
export function languageOf(code: string): Language {
  const text = code.trim();
  if (text === '') return 'text';
  if (text.startsWith('<') && TAG.test(text)) return 'markup';
  // Backticks around tags would be a template string.
  if (/^[`~]/.test(text) && TAG.test(text)) return 'markup';
  if (isJson(text)) return 'json';
  if (!('message' in parseScript(text, false)) || !('message' in parseScript(text, true))) {
    // One word, or a sentence without marks, is a script too, but nobody means that.
    return /[(=]|^import\s/.test(text) ? 'javascript' : 'text';
  }
  if (isStyles(text)) return 'css';
  if (TAG.test(text)) return 'markup';
  const marks = /\b(function|var|let|const|window|document)\b|=>|\);|\}\)/.test(text);
  return marks ? 'javascript' : 'text';
}

function isJson(text: string): boolean {
  if (!/^[[{]/.test(text)) return false;
  try {
    JSON.parse(text);
    return true;
  } catch {
    return false;
  }
}

/** What stands before the first block of a style sheet: a selector, or an at-rule. */
const PRELUDE = /^(?:@[a-z-]|[^<>;=@])[^<>;=]*$/i;
const DECLARATION = /[\w-]\s*:\s*[^;{}\s]/;
const SCRIPT_WORD = /\b(?:function|var|let|const|return)\b/;

/** Whether a text that is no script looks like style rules. */
function isStyles(text: string): boolean {
  const open = text.indexOf('{');
  if (open <= 0 || !text.endsWith('}')) return false;
  return PRELUDE.test(text.slice(0, open)) && DECLARATION.test(text) && !SCRIPT_WORD.test(text);
}
