/** Whether a character (a code point) cannot be written as it is. */
export type IsLacking = (character: string) => boolean;

/** Replaces the lacking characters in a piece of code; undefined where one of them cannot be said otherwise. */
export type Escape = (text: string, isLacking: IsLacking) => string | undefined;

export function hasLacking(text: string, isLacking: IsLacking): boolean {
  for (const character of text) if (isLacking(character)) return true;
  return false;
}

/** Replaces each lacking character. */
export function replaceLacking(
  text: string,
  isLacking: IsLacking,
  by: (character: string, at: number) => string,
): string {
  let out = '';
  let at = 0;
  for (const character of text) {
    out += isLacking(character) ? by(character, at) : character;
    at += character.length;
  }
  return out;
}

/** Whether an odd number of backslashes stands before `at`: the character there is escaped already. */
export function isEscaped(text: string, at: number): boolean {
  let count = 0;
  while (text[at - 1 - count] === '\\') count++;
  return count % 2 === 1;
}
