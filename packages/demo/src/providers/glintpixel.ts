import { script, type Provider } from './provider.js';

export const glintpixel: Provider = {
  key: 'glintpixel',
  name: 'Glintpixel',
  does: 'tells the adverts who has booked',
  files: {
    '/glint.js': script(`var waiting = (window.glint && window.glint.waiting) || [];
var account = '';
window.glint = function (verb, value) {
  if (verb === 'account') account = value;
  else tell({ account: account, event: value });
};
waiting.forEach(function (args) { window.glint.apply(null, args); });`),
  },
};
