import { script, type Provider } from './provider.js';

export const nudgelet: Provider = {
  key: 'nudgelet',
  name: 'Nudgelet',
  does: 'shows a pop-up once',
  files: {
    '/nudge.js': script(`var tag = document.currentScript;
var key = 'nudgelet-' + tag.dataset.nudge;
if (localStorage.getItem(key)) { tell({ account: tag.dataset.nudge, event: 'dismissed-before' }); return; }
var box = document.createElement('div');
box.id = 'nudgelet-box';
box.setAttribute('role', 'dialog');
box.style.cssText = 'position:fixed;left:20px;bottom:20px;max-width:300px;z-index:60;background:#fff;color:#12303a;padding:18px 20px;' +
  'border-radius:8px;font:15px/1.5 system-ui,sans-serif;box-shadow:0 6px 28px rgba(0,0,0,.28);border-top:4px solid #d9572b';
box.textContent = tag.dataset.text + ' ';
var close = document.createElement('button');
close.textContent = 'No thanks';
close.onclick = function () { localStorage.setItem(key, '1'); box.remove(); };
box.appendChild(close);
setTimeout(function () { document.body.appendChild(box); tell({ account: tag.dataset.nudge, event: 'shown' }); }, Number(tag.dataset.after || 1) * 1000);`),
  },
};
