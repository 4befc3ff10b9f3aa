import { script, type Provider } from './provider.js';

export const sharebuoy: Provider = {
  key: 'sharebuoy',
  name: 'Sharebuoy',
  does: 'lets visitors pass a page on',
  files: {
    '/share.js': script(`var colour = document.currentScript.dataset.colour || '#0f5566';
var button = document.createElement('button');
button.textContent = 'Pass it on';
button.style.cssText = 'position:fixed;left:0;top:40%;z-index:44;border:0;border-radius:0 6px 6px 0;padding:12px;color:#fff;font:600 14px system-ui,sans-serif;background:' + colour;
button.onclick = function () { tell({ account: 'buoy', event: 'passed-on' }); };
document.body.appendChild(button);
tell({ account: 'buoy', event: 'shown' });`),
  },
};
