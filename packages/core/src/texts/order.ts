import { catalogue } from './catalogue.js';

export const ORDER_TEXTS = catalogue('core.order', {
  latterUsesName: '{latter} uses “{name}”, which {former} defines',
  latterUsesCalled: '{latter} uses “{name}”, which a file in {former} probably defines, judging by its name',
  latterLooksId: '{latter} looks for #{id}, which {former} adds',
  scriptLatterReads: 'the script of {latter} reads “{name}”, which {former} sets',
  latterSaidNeed: 'a note says that {latter} needs {former}',
  recipeLatterWants: 'the recipe of {latter} wants {former} first',
  pageBringsName: '{part} uses “{name}”, which {page} defines itself ({maker})',
  moveTo: 'Move {part} {to}, {side, select, before {right above} other {right below}} {next}',
  move: 'Move {part} {side, select, before {right above} other {right below}} {next}',
});
