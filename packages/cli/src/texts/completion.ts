import { catalogue } from '@pragmatica/core';

export const COMPLETION = catalogue('cli.completion', {
  description: 'complete words with the Tab key: prints what your shell needs',
  examples: `
Examples:
  bash   echo 'eval "$(pragmatica completion bash)"' >> ~/.bashrc
  zsh    echo 'eval "$(pragmatica completion zsh)"' >> ~/.zshrc
  fish   pragmatica completion fish > ~/.config/fish/completions/pragmatica.fish

Sites, snippets, recipes, findings and pages are completed from the service, if you are signed in.`,
  draft: 'the set being edited',
  live: 'what visitors get',
  staging: 'what staging serves',
});
