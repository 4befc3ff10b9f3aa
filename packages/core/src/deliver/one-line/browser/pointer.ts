import type { LineLive } from '../types.js';
import { isInOrder, scriptTag, stateOf } from './shared.js';

/**
 * What stands behind the one line: it loads the release that is served now, which never changes and may be kept. Nothing
 * here is called in this package: `npm run build:one-line` makes `scripts.ts` of it, which goes to browsers.
 */
export const loadRelease = (digest: string, live: LineLive): void => {
  const page = document;
  const state = stateOf(live);
  if (!state) return;
  const [line, , trusted] = state;
  const address = `${line.src.replace(/[?#].*/, '').replace(/\.js$/, '')}/${digest}.js`;
  if (isInOrder(line)) page.write(trusted.createHTML(scriptTag(address, line.nonce)));
  else {
    const script = page.createElement('script');
    script.src = trusted.createScriptURL(address);
    script.nonce = line.nonce!;
    line.after(script);
  }
};
