export const ORDER_TEXTS = {
  latterUsesName: '{latter} uses “{name}”, which {former} makes',
  latterUsesCalled: '{latter} uses “{name}”, which a file of {former} brings, going by its name',
  latterLooksId: '{latter} looks for #{id}, which {former} brings',
  scriptLatterReads: 'the script of {latter} reads “{name}”, which {former} sets',
  latterSaidNeed: '{latter} is said to need {former}',
  recipeLatterWants: 'the recipe of {latter} wants {former} before it',
  pageBringsName: '{part} uses “{name}”, which {page} brings itself ({maker})',
  moveTo: 'Move {part} {to}, {side, select, before {in front of} other {behind}} {next}',
  move: 'Move {part} {side, select, before {in front of} other {behind}} {next}',
} as const;
