/** Has the browser save a file. */
export function saveFile(name: string, content: string | Blob, type = 'text/plain'): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(typeof content === 'string' ? new Blob([content], { type }) : content);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
