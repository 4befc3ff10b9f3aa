export const DELIVER_TEXTS = {
  folderFiles: 'a folder of files',
  filesCannotAsk: 'Files cannot ask: it was decided for now, a desktop and no consent.',
  gateway: 'the gateway',
  nameRunsWords: '“{name}” runs {words}. {onceWords}',
} as const;
