import { script, type Provider } from './provider.js';

export const pierlist: Provider = {
  key: 'pierlist',
  name: 'Pierlist',
  does: 'keeps a directory of stops',
  files: {
    '/list.js': script(`var tag = document.currentScript;
var list = document.createElement('ul');
['The slip', 'Brindle pier', 'South landing'].forEach(function (stop) {
  list.appendChild(document.createElement('li')).textContent = stop;
});
tag.parentNode.insertBefore(list, tag);
tell({ account: tag.dataset.list, event: 'shown' });`),
  },
};
