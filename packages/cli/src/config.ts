import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { homedir } from 'node:os';
import { dirname, join } from 'node:path';
import { z } from 'zod';

export const FIRST_SERVER = 'http://localhost:4700';

const configSchema = z.object({
  /** Where the last sign-in went; commands go there too. */
  server: z.string().optional(),
  /** Of whoever signed in last; commands speak it. */
  language: z.string().optional(),
  tokens: z.record(z.string(), z.string()).default({}),
});
export type Config = z.infer<typeof configSchema>;

/** Where sign-ins are kept: below XDG_CONFIG_HOME, as the XDG Base Directory Specification asks. */
export function configFile(): string {
  return join(process.env['XDG_CONFIG_HOME'] || join(homedir(), '.config'), 'pragmatica', 'config.json');
}

/** The sign-ins; none when the file is missing or cannot be read. */
export function readConfig(): Config {
  try {
    return configSchema.parse(JSON.parse(readFileSync(configFile(), 'utf8')));
  } catch {
    return { tokens: {} };
  }
}

/** Only the user may read the file: it holds tokens. */
export function writeConfig(config: Config): void {
  const file = configFile();
  mkdirSync(dirname(file), { recursive: true, mode: 0o700 });
  writeFileSync(file, `${JSON.stringify(config, null, 2)}\n`, { mode: 0o600 });
}

/** Has commands speak a language from the next one on; null for English. */
export function keepLanguage(language: string | null): void {
  const { language: _, ...config } = readConfig();
  writeConfig({ ...config, ...(language === null ? {} : { language }) });
}

let keptServer: string | undefined;

/** Where commands go when nothing else is said: where the last sign-in went. */
export function defaultServer(): string {
  keptServer ??= readConfig().server ?? FIRST_SERVER;
  return keptServer;
}
