import { execFile, spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { expect } from 'chai';
import { SHELLS } from '../../packages/cli/src/completion/scripts.js';
import { BINARY } from '../support/cli.js';
import { startStage, type Stage } from '../support/stage.js';

describe('completion', function () {
  this.timeout(120_000);
  let stage: Stage;
  let folder: string;
  before(async () => {
    stage = await startStage();
    folder = mkdtempSync(join(tmpdir(), 'pragmatica-completion-'));
  });
  after(async () => {
    await stage.close();
    rmSync(folder, { recursive: true });
  });

  const asked = async (file: string, args: readonly string[], env: Record<string, string> = {}) => {
    const environment = {
      ...{ PATH: process.env['PATH'], HOME: folder, XDG_CONFIG_HOME: folder },
      ...{ PRAGMATICA_SERVER: stage.server, PRAGMATICA_TOKEN: stage.token, ...env },
    };
    const { stdout } = await promisify(execFile)(file, args, { env: environment, cwd: folder });
    return stdout.split('\n').filter(Boolean);
  };
  /** What bash completes at the end of a line, with what `completion bash` gives it. */
  const inBash = async (words: readonly string[], env?: Record<string, string>): Promise<string[]> => {
    const script = `pragmatica() { "${process.execPath}" "${BINARY}" "$@"; }
      eval "$(pragmatica completion bash)"
      COMP_WORDS=(pragmatica "$@"); COMP_CWORD=$#
      _pragmatica
      printf '%s\\n' "\${COMPREPLY[@]}"`;
    return asked('bash', ['-c', script, 'bash', ...words], env);
  };
  const answered = async (shell: string, ...words: string[]): Promise<string[]> =>
    asked(process.execPath, [BINARY, 'complete', '--shell', shell, '--', ...words]);

  it('completes commands and options in bash, and those of a command behind it', async () => {
    expect(await inBash(['sni'])).to.deep.equal(['snippet']);
    expect(await inBash(['snippet', 're'])).to.deep.equal(['reach', 'remove']);
    expect(await inBash(['check', '--a'])).to.deep.equal(['--all-sites', '--against', '--at']);
    expect(await inBash(['check', '--fail-on', ''])).to.deep.equal(['error', 'warning']);
    expect(await inBash(['check', '--of', 'l'])).to.deep.equal(['live']);
    expect(await inBash(['explain', 'same-c'])).to.deep.equal(['same-code', 'same-corner']);
    expect(await inBash(['']))
      .to.include('publish')
      .and.not.include('complete');
  });

  it('completes sites, snippets, pages, recipes and findings from the service', async () => {
    const site = ['--site', 'skerrywick'];
    const made = { params: { site: 'skerrywick', snippet: 'harbour-chat' } } as const;
    await stage.client.call('makeRecipe', { ...made, body: { key: 'parlanook-chat', name: 'Chat' } });
    expect(await inBash(['check', '--site', 'skerry'])).to.deep.equal(['skerrywick']);
    expect(await inBash(['snippet', 'off', ...site, 'har'])).to.deep.equal(['harbour-chat']);
    expect(await inBash(['snippet', 'off', 'har'], { PRAGMATICA_SITE: 'skerrywick' })).to.deep.equal([
      'harbour-chat',
    ]);
    expect(await inBash(['snippet', 'off', 'harbour-chat', 'visit'])).to.deep.equal(['visit-counter']);
    expect(await inBash(['recipe', 'apply', ...site, 'parla'])).to.deep.equal(['parlanook-chat']);
  });

  /** A folder with the command by its name, for shells that look for it; the script is read from a file beside it. */
  const installed = (shell: 'zsh' | 'fish'): string => {
    writeFileSync(join(folder, 'pragmatica'), `#!/bin/sh\nexec "${process.execPath}" "${BINARY}" "$@"\n`, {
      mode: 0o755,
    });
    writeFileSync(join(folder, 'script'), SHELLS[shell].script);
    return `${folder}:${process.env['PATH']}`;
  };
  const isThere = (shell: string): boolean => spawnSync(shell, ['-c', 'true']).status === 0;

  it('completes in fish, with what each word is, and files where it knows no word', async function () {
    if (!isThere('fish')) this.skip();
    const PATH = installed('fish');
    writeFileSync(join(folder, 'pages.har'), '');
    const inFish = (line: string) =>
      asked('fish', ['-c', 'source script; complete -C $argv[1]', line], { PATH });
    expect(await inFish('pragmatica snippet off --site skerrywick har')).to.deep.equal([
      'harbour-chat\tHarbour chat',
    ]);
    expect(await inFish('pragmatica check --fail-on ')).to.deep.equal(['error', 'warning']);
    expect(await inFish('pragmatica survey --har pag')).to.deep.equal(['pages.har']);
  });

  it('completes in zsh, on its own terminal', async function () {
    if (!isThere('zsh')) this.skip();
    const PATH = installed('zsh');
    const session = `zmodload zsh/zpty; zpty z zsh -f -i
      zpty -w z 'PS1=; autoload -Uz compinit; compinit -u; source ./script; print READ\\Y'
      zpty -r -m z out '*READY*'
      zpty -w -n z $'pragmatica snippet off --site skerrywick har\\t'
      zpty -r -m z out '*harbour-chat*' && print found
      zpty -d z`;
    expect(await asked('zsh', ['-f', '-c', session], { PATH, TERM: 'dumb' })).to.deep.equal(['found']);
  });

  it('says what a word is where the shell can show it', async () => {
    expect(await answered('fish', 'snippet', 'on', 'harb')).to.deep.equal(['harbour-chat\tHarbour chat']);
    const [site] = await answered('zsh', 'check', '--site', 'skerrywick');
    expect(site).to.equal('skerrywick:Skerrywick Ferries');
  });

  it('guesses no site where there are several', async () => {
    expect(await inBash(['snippet', 'off', 'har'])).to.deep.equal(['harbour-chat']);
    await stage.client.call('createSite', { body: { key: 'mill', name: 'Tide Mill' } });
    expect(await inBash(['snippet', 'off', 'har'])).to.deep.equal([]);
  });

  it('puts nothing into a line of bash that would run there', async () => {
    for (const word of [
      '/fares',
      '/$(touch owned)',
      '/a;touch owned',
      "/it's",
      '/`touch owned`',
      '/a&b|c',
      '/a\\b',
      '/Straße',
    ]) {
      const line = SHELLS.bash.line({ word, about: '' });
      expect(await asked('bash', ['-c', `printf '%s' ${line}`])).to.deep.equal([word]);
    }
    expect(readdirSync(folder)).not.to.include('owned');
  });

  it('stays silent where nobody is signed in, or nobody answers', async () => {
    expect(await inBash(['snippet', 'on', ''], { PRAGMATICA_TOKEN: 'wrong' })).to.deep.equal([]);
    expect(await inBash(['snippet', 'on', ''], { PRAGMATICA_SERVER: 'http://127.0.0.1:9' })).to.deep.equal(
      [],
    );
  });
});
