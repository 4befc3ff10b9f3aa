import { parseScript } from './script/read-script.js';
import type { Language } from './types.js';

const TAG = /<(?:!--|\/?[a-z][a-z0-9-]*(?=[\s/>]))/i;

/** What a pasted text is written in. */
export function languageOf(code: string): Language {
  const text = code.trim();
  if (text === '') return 'text';
  if (text.startsWith('<') && TAG.test(text)) return 'markup';
  if (isJson(text)) return 'json';
  if (!('message' in parseScript(text, false)) || !('message' in parseScript(text, true))) {
    // One word, or a sentence without marks, is a script too, but nobody means that.
    return /[(=]|^import\s/.test(text) ? 'javascript' : 'text';
  }
  if (
    /^(?:@[a-z-]+[^{};]*|[^{}<>;()=]+(?:\([^{}]*\))?[^{}<>;=]*)\{[^]*\}\s*$/i.test(text) &&
    /[\w-]+\s*:\s*[^;{}]+/.test(text)
  )
    if (!/\b(function|var|let|const|return)\b/.test(text)) return 'css';
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
