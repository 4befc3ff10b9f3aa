import type { LineLive } from '../types.js';
import { isInOrder, isOff, scriptTag, trust } from './shared.js';

/**
 * What stands behind the one line: it loads the release that is served now, which never changes and may be kept. Nothing
 * here is called in this package: `npm run build:one-line` makes `scripts.ts` of it, which goes to browsers.
 */
export const loadRelease = (digest: string, live: LineLive): void => {
  const page = document;
  const line = page.currentScript as HTMLScriptElement | null;
  // The line may stand there twice.
  if (!line || page.pgmOne || isOff()) return;
  page.pgmOne = [line, live];
  const address = line.src.replace(/(\.js)?([?#].*)?$/, `/${digest}.js`);
  if (isInOrder(line)) page.write(trust().createHTML(scriptTag(address, line.nonce)));
  else {
    const script = page.createElement('script');
    script.src = trust().createScriptURL(address);
    script.nonce = line.nonce!;
    line.after(script);
  }
};
