import { script, type Provider } from './provider.js';

export const parlanook: Provider = {
  key: 'parlanook',
  name: 'Parlanook',
  does: 'lets visitors chat with the harbour office',
  files: {
    '/chat.js': script(`var settings = window.parlanook || {};
if (!settings.room) { tell({ account: 'none', event: 'no-room' }); return; }
var bubble = document.createElement('button');
bubble.id = 'parlanook-bubble';
bubble.textContent = settings.greeting || 'Chat with us';
bubble.style.cssText = 'position:fixed;right:20px;bottom:20px;z-index:50;border:0;border-radius:24px;padding:14px 20px;' +
  'background:#12303a;color:#fff;font:600 15px system-ui,sans-serif;box-shadow:0 4px 18px rgba(0,0,0,.25);cursor:pointer';
bubble.onclick = function () { tell({ account: settings.room, event: 'opened' }); bubble.textContent = 'The harbour office answers from 6:00'; };
document.body.appendChild(bubble);
tell({ account: settings.room, event: 'shown' });`),
  },
};
