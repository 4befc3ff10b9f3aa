import { readFileSync, readdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { RecipeInput } from '@pragmatica/contract';

const FOLDER = join(dirname(fileURLToPath(import.meta.url)), '..', 'recipes');
/** As the files say it; the demo may run elsewhere. */
const PORT = 'localhost:4791';

/** The recipes of the stand-in providers, older versions first. */
export function demoRecipes(providerPort: number): RecipeInput[] {
  return readdirSync(FOLDER)
    .filter((file) => file.endsWith('.json'))
    .map((file) => {
      const text = readFileSync(join(FOLDER, file), 'utf8');
      return JSON.parse(text.replaceAll(PORT, `localhost:${providerPort}`)) as RecipeInput;
    })
    .sort((a, b) => a.version - b.version || (a.key < b.key ? -1 : 1));
}
