import type { Candidate } from './words.js';

interface Shell {
  /** What the shell reads at its start. */
  readonly script: string;
  /** A candidate as the shell takes it. */
  readonly line: (candidate: Candidate) => string;
}

const oneLine = (text: string): string => text.replace(/\s+/g, ' ');

/** Shells by name. Where nothing is known, file names are completed. */
export const SHELLS = {
  bash: {
    script: `_pragmatica() {
  local IFS=$'\\n'
  COMPREPLY=($(pragmatica complete --shell bash -- "\${COMP_WORDS[@]:1:COMP_CWORD}" 2>/dev/null))
}
complete -o default -F _pragmatica pragmatica
`,
    // Bash puts it into the line as it is: a page’s path may hold what would run as a command there.
    line: ({ word }) => word.replace(/[^\p{L}\p{N}_/.:=@%+,-]/gu, '\\$&'),
  },
  zsh: {
    script: `#compdef pragmatica
_pragmatica() {
  local -a found
  found=("\${(@f)$(pragmatica complete --shell zsh -- "\${(@)words[2,CURRENT]}" 2>/dev/null)}")
  if [[ -n "\${found[1]}" ]]; then _describe pragmatica found; else _files; fi
}
compdef _pragmatica pragmatica
`,
    line: ({ word, about }) => `${word.replaceAll(':', '\\:')}${about === '' ? '' : `:${oneLine(about)}`}`,
  },
  fish: {
    script: `function __pragmatica_complete
  set -l words (commandline -opc) (commandline -ct)
  set -l found (pragmatica complete --shell fish -- $words[2..] 2>/dev/null)
  if test (count $found) -gt 0
    printf '%s\\n' $found
  else
    __fish_complete_path (commandline -ct)
  end
end
complete -c pragmatica -f -a '(__pragmatica_complete)'
`,
    line: ({ word, about }) => (about === '' ? word : `${word}\t${oneLine(about)}`),
  },
} as const satisfies Readonly<Record<string, Shell>>;

export type ShellName = keyof typeof SHELLS;
export const SHELL_NAMES = Object.keys(SHELLS) as readonly ShellName[];
