import { script, type Provider } from './provider.js';

export const slotwell: Provider = {
  key: 'slotwell',
  name: 'Slotwell',
  does: 'puts a booking button where it stands',
  files: {
    '/button.js': script(`var tag = document.currentScript;
var button = document.createElement('a');
button.className = 'slotwell-button';
button.href = '/booking?quay=' + encodeURIComponent(tag.dataset.quay);
button.textContent = tag.dataset.label || 'Book now';
button.style.cssText = 'display:inline-block;margin:10px 0;padding:12px 18px;border-radius:6px;background:#0f5566;color:#fff;text-decoration:none;font:600 15px system-ui,sans-serif';
tag.parentNode.insertBefore(button, tag);
tell({ account: tag.dataset.quay, event: 'shown' });`),
  },
};
