import { catalogue } from '@pragmatica/core';

export const HANDOVER = catalogue('cli.handover', {
  description: 'a link to the blocks to paste, for somebody without an account: make, list or end one',
  days: 'for so long the link works',
  end: 'let this one work no longer',
  list: 'list those that still work',
  made: 'Whoever has this link sees the blocks to paste, and ticks them off. It works until {until}, and is shown only now:',
  ended: 'Link {id} works no longer.',
  none: 'No links.',
  lastUsed: 'LAST USED',
  notUsed: 'not yet',
  examples:
    '\nExamples:\n  pragmatica paste handover\n  pragmatica paste handover --days 3\n  pragmatica paste handover --list\n  pragmatica paste handover --end 4',
});
