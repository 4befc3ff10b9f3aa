import { readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';

/** The HTML files below folders; links are not followed. */
export function htmlFiles(folders: readonly string[]): string[] {
  return folders.flatMap((folder) =>
    readdirSync(folder, { withFileTypes: true, recursive: true })
      .filter((entry) => entry.isFile() && /\.html?$/i.test(entry.name))
      .map((entry) => join(entry.parentPath, entry.name))
      .filter((file) => statSync(file).size > 0),
  );
}
