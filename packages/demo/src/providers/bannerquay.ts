import { script, type Provider } from './provider.js';

export const bannerquay: Provider = {
  key: 'bannerquay',
  name: 'Bannerquay',
  does: 'fills a strip with adverts',
  files: {
    '/strip.js': script(`var strip = document.currentScript.dataset.strip;
var place = document.getElementById('bannerquay-' + strip);
if (!place) { tell({ account: strip, event: 'no-place' }); return; }
place.textContent = 'Sea-boots, mended while you wait: the cobbler on Fish Lane.';
place.style.cssText = 'padding:14px;text-align:center;background:#efe7d3;color:#12303a;font:15px system-ui,sans-serif';
tell({ account: strip, event: 'shown' });`),
  },
};
