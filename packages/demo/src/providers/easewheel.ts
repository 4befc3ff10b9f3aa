import { script, type Provider } from './provider.js';

export const easewheel: Provider = {
  key: 'easewheel',
  name: 'Easewheel',
  does: 'offers larger text and more contrast',
  files: {
    '/ease.js': script(`var button = document.createElement('button');
button.id = 'easewheel-button';
button.textContent = 'Larger text';
button.style.cssText = 'position:fixed;right:20px;top:50%;z-index:45;border:0;border-radius:6px 0 0 6px;padding:12px;background:#d9572b;color:#fff;font:600 14px system-ui,sans-serif';
button.onclick = function () { document.documentElement.style.fontSize = '21px'; tell({ account: 'wheel', event: 'used' }); };
document.body.appendChild(button);
tell({ account: 'wheel', event: 'shown' });`),
  },
};
