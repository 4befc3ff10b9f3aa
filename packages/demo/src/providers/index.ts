import { bannerquay } from './bannerquay.js';
import { biscuitkeel } from './biscuitkeel.js';
import { crateline } from './crateline.js';
import { easewheel } from './easewheel.js';
import { formhatch } from './formhatch.js';
import { glintpixel } from './glintpixel.js';
import { nudgelet } from './nudgelet.js';
import { parlanook } from './parlanook.js';
import { pierlist } from './pierlist.js';
import type { Provider } from './provider.js';
import { sharebuoy } from './sharebuoy.js';
import { slotwell } from './slotwell.js';
import { tallymast } from './tallymast.js';

/** All stand-ins. One more is one more file and one more name here. */
export const providers: readonly Provider[] = [
  bannerquay,
  biscuitkeel,
  crateline,
  easewheel,
  formhatch,
  glintpixel,
  nudgelet,
  parlanook,
  pierlist,
  sharebuoy,
  slotwell,
  tallymast,
];
