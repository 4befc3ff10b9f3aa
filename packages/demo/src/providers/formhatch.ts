import { script, type Provider } from './provider.js';

export const formhatch: Provider = {
  key: 'formhatch',
  name: 'Formhatch',
  does: 'collects newsletter addresses',
  files: {
    '/form.js': script(`var id = document.currentScript.dataset.form;
var place = document.getElementById('formhatch-' + id);
if (!place) { tell({ account: id, event: 'no-place' }); return; }
place.innerHTML = '<form><label>News from the quay <input type="email" required placeholder="you@example.test"></label> <button>Send me news</button></form>';
place.firstChild.onsubmit = function (event) { event.preventDefault(); tell({ account: id, event: 'sent' }); place.textContent = 'Thank you.'; };
tell({ account: id, event: 'shown' });`),
  },
};
