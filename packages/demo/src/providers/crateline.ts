import { script, type Provider } from './provider.js';

export const crateline: Provider = {
  key: 'crateline',
  name: 'Crateline',
  does: 'holds other tags in a container',
  files: {
    '/crate.js': script(`var queue = window.crate || [];
var account = new URL(document.currentScript.src).searchParams.get('id');
window.crate = { push: function (entry) { tell({ account: account, event: entry.event || 'entry' }); } };
queue.forEach(window.crate.push);`),
    '/no-script.html': () => '<!doctype html><title>Crateline</title>',
  },
};
