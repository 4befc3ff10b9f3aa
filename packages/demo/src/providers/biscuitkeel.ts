import { script, type Provider } from './provider.js';

export const biscuitkeel: Provider = {
  key: 'biscuitkeel',
  name: 'Biscuitkeel',
  does: 'asks for consent',
  files: {
    '/consent.js': script(`var account = document.currentScript.dataset.site;
window.biscuitkeel = { choice: localStorage.getItem('biscuitkeel') };
if (window.biscuitkeel.choice) { tell({ account: account, event: 'known' }); return; }
addEventListener('DOMContentLoaded', function () {
  var bar = document.createElement('div');
  bar.id = 'biscuitkeel-bar';
  bar.style.cssText = 'position:sticky;bottom:0;z-index:40;background:#f6efe2;border-top:1px solid #d9c9a8;padding:12px 20px;font:15px/1.5 system-ui,sans-serif;color:#12303a';
  bar.textContent = 'May we count visits? ';
  ['yes', 'no'].forEach(function (choice) {
    var button = document.createElement('button');
    button.textContent = choice === 'yes' ? 'Yes' : 'No';
    button.style.marginLeft = '8px';
    button.onclick = function () { localStorage.setItem('biscuitkeel', choice);
      var purposes = choice === 'yes' ? ['visits', 'adverts'] : [];
      document.cookie = 'biscuitkeel=' + encodeURIComponent(JSON.stringify({ purposes: purposes })) + ';path=/;max-age=15552000;samesite=lax';
      bar.remove(); tell({ account: account, event: choice }); };
    bar.appendChild(button);
  });
  document.body.appendChild(bar);
  tell({ account: account, event: 'asked' });
});`),
  },
};
