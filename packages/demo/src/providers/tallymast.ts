import { script, type Provider } from './provider.js';

export const tallymast: Provider = {
  key: 'tallymast',
  name: 'Tallymast',
  does: 'counts visits',
  files: {
    '/count.js': script(`var tag = document.currentScript;
window.tallymastVisits = (window.tallymastVisits || 0) + 1;
tell({ account: tag.dataset.account, event: 'visit' });`),
  },
};
