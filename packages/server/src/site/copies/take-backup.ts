import type { CopyStore } from '../../storage/copies/copy-store.js';
import type { Store } from '../../storage/store.js';
import { audit } from '../../storage/trail.js';
import type { SecretBox } from '../../outgoing/secret-box.js';
import { COPY_TEXTS } from '../../texts/copies.js';
import { VERSION } from '../../version.js';
import { copyProblem } from './problems.js';

export interface Copying {
  readonly copies: CopyStore;
  readonly box: SecretBox;
}

/** The whole installation as a tar archive, for whoever asks for it. @throws ServiceError 409 */
export async function* takeBackup(
  { copies, box }: Copying,
  { isWithKey }: { readonly isWithKey: boolean },
  { store, actor }: { readonly store: Store; readonly actor: string },
): AsyncGenerator<Uint8Array> {
  await store.transactional(async (transaction) => {
    audit(transaction, null, actor, 'backup', () => COPY_TEXTS.taken);
    await transaction.flush();
  });
  try {
    yield* copies.dump({ version: VERSION, key: isWithKey ? box.exportKey() : null });
  } catch (error) {
    throw copyProblem(error);
  }
}
