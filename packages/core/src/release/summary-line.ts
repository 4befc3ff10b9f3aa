/** The line of a piece of code that tells most about it: the first that is neither empty, a comment nor a bare tag. */
export function summaryLine(code: string): string {
  const lines = code.split('\n').map((line) => line.trim());
  return lines.find((line) => line !== '' && !/^<!--|^<\/?\w+>$/.test(line)) ?? lines[0]!;
}
