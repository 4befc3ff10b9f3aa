import { blockedByPolicy } from './activation/blocked-by-policy.js';
import { brokenData } from './activation/broken-data.js';
import { closedNow } from './activation/closed-now.js';
import { featureNotAllowed } from './activation/feature-not-allowed.js';
import { fieldExample } from './activation/field-example.js';
import { fieldProblem } from './activation/field-problem.js';
import { isolatedPage } from './activation/isolated-page.js';
import { missingOnPages } from './activation/missing-on-pages.js';
import { fileGone } from './activation/file-gone.js';
import { ignoredCode } from './activation/ignored-code.js';
import { patternWithoutPage } from './activation/pattern-without-page.js';
import { placeholder } from './activation/placeholder.js';
import { reachEmpty } from './activation/reach-empty.js';
import { syntaxError } from './activation/syntax-error.js';
import { testMode } from './activation/test-mode.js';
import { openStep } from './activation/open-step.js';
import { recipeBehind } from './activation/recipe-behind.js';
import { recipeRetired } from './activation/recipe-retired.js';
import { unreadCode } from './activation/unread-code.js';
import { undefinedReach } from './activation/undefined-reach.js';
import { consentUnreadable } from './delivery/consent-unreadable.js';
import { decidedOnceCheck } from './delivery/decided-once.js';
import { deliveredTwice } from './delivery/delivered-twice.js';
import { lateForPage } from './delivery/late-for-page.js';
import { lineBlocked } from './delivery/line-blocked.js';
import { noBox } from './delivery/no-box.js';
import { viewUnnoticed } from './delivery/view-unnoticed.js';
import { withoutScript } from './delivery/without-script.js';
import { readyLate } from './delivery/ready-late.js';
import { writtenLate } from './delivery/written-late.js';
import { hardCoded } from './duplicates/hard-coded.js';
import { oncePerPage } from './duplicates/once-per-page.js';
import { recipeTwice } from './duplicates/recipe-twice.js';
import { sameAccount } from './duplicates/same-account.js';
import { sameCode } from './duplicates/same-code.js';
import { sameId } from './duplicates/same-id.js';
import { sameResource } from './duplicates/same-resource.js';
import { twoAccounts } from './duplicates/two-accounts.js';
import { twoDefiners } from './duplicates/two-definers.js';
import { twoOfAKind } from './duplicates/two-of-a-kind.js';
import { twoVersions } from './duplicates/two-versions.js';
import { elementMadeLater } from './order/element-made-later.js';
import { needsWhatIsOff } from './order/needs-what-is-off.js';
import { nothingBrings } from './order/nothing-brings.js';
import { pageBringsLater } from './order/page-brings-later.js';
import { notFirst } from './order/not-first.js';
import { orderCycle } from './order/order-cycle.js';
import { recipeNeed } from './order/recipe-need.js';
import { settingsAfterLoader } from './order/settings-after-loader.js';
import { statedNeed } from './order/stated-need.js';
import { usedBeforeDefined } from './order/used-before-defined.js';
import { sameCorner } from './overlap/same-corner.js';
import { contained } from './placement/contained.js';
import { copiedAsText } from './placement/copied-as-text.js';
import { curlyQuotes } from './placement/curly-quotes.js';
import { elementNotThere } from './placement/element-not-there.js';
import { noScriptTags } from './placement/no-script-tags.js';
import { noPlace } from './placement/no-place.js';
import { notCode } from './placement/not-code.js';
import { missingPiece } from './placement/missing-piece.js';
import { providerSaid } from './placement/provider-said.js';
import { secondPiece } from './placement/second-piece.js';
import { wordsAroundCode } from './placement/words-around-code.js';
import { blockingScript } from './safety/blocking-script.js';
import { heavyCode } from './safety/heavy-code.js';
import { insecureAddress } from './safety/insecure-address.js';
import { pageWeight } from './safety/page-weight.js';
import { lateWrite } from './safety/late-write.js';
import { secret } from './safety/secret.js';
import { pinnedFileRefused } from './safety/pinned-file-refused.js';
import { halfInstall } from './placement/half-install.js';
import { nothingFills } from './placement/nothing-fills.js';
import { swappedPieces } from './placement/swapped-pieces.js';
import { thrownAway } from './order/thrown-away.js';
import { pastedWrong } from './placement/pasted-wrong.js';
import { saidPages } from './activation/said-pages.js';
import { timeZoneCheck } from './activation/time-zone.js';
import { changesPageForAll } from './safety/changes-page-for-all.js';
import { scriptlessFrame } from './activation/scriptless-frame.js';
import { lateByKind } from './order/late-by-kind.js';
import { unpinnedFile } from './safety/unpinned-file.js';
import type { Check } from './check.js';

/** All checks, in the order in which findings of one severity are told. One more is one more file and one line here. */
export const CHECKS: readonly Check[] = [
  pastedWrong,
  contained,
  noPlace,
  noScriptTags,
  notCode,
  wordsAroundCode,
  copiedAsText,
  curlyQuotes,
  elementNotThere,
  swappedPieces,
  secondPiece,
  halfInstall,
  nothingFills,
  missingPiece,
  providerSaid,
  orderCycle,
  usedBeforeDefined,
  elementMadeLater,
  needsWhatIsOff,
  pageBringsLater,
  nothingBrings,
  thrownAway,
  settingsAfterLoader,
  statedNeed,
  recipeNeed,
  notFirst,
  lateByKind,
  sameCode,
  sameResource,
  recipeTwice,
  sameAccount,
  twoAccounts,
  twoDefiners,
  sameId,
  twoVersions,
  oncePerPage,
  twoOfAKind,
  hardCoded,
  sameCorner,
  unreadCode,
  syntaxError,
  brokenData,
  ignoredCode,
  fieldProblem,
  fieldExample,
  placeholder,
  testMode,
  undefinedReach,
  reachEmpty,
  patternWithoutPage,
  saidPages,
  missingOnPages,
  fileGone,
  blockedByPolicy,
  featureNotAllowed,
  isolatedPage,
  scriptlessFrame,
  closedNow,
  timeZoneCheck,
  openStep,
  recipeRetired,
  recipeBehind,
  deliveredTwice,
  lineBlocked,
  consentUnreadable,
  noBox,
  decidedOnceCheck,
  lateForPage,
  viewUnnoticed,
  withoutScript,
  readyLate,
  writtenLate,
  secret,
  changesPageForAll,
  lateWrite,
  insecureAddress,
  blockingScript,
  pinnedFileRefused,
  unpinnedFile,
  heavyCode,
  pageWeight,
];
