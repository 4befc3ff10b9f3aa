import { SEAL_PURPOSES } from '../../outgoing/seal-purposes.js';
import { SealError, SecretBox } from '../../outgoing/secret-box.js';
import type { Reseal, SealedValue } from '../../storage/copies/sealed.js';

/**
 * Seals with this installation's key what another one has sealed.
 *
 * @param key - of the other one, in base64; null where nobody has it: then this one's is tried
 * @param oldSite - the id that the site had there, where it has another one here
 */
export function resealWith(box: SecretBox, key: string | null, oldSite?: number): Reseal {
  const other = key === null ? box : boxOf(key);
  return (value) => {
    try {
      return box.seal(other.open(value.sealed, purposeOf(value, oldSite)), purposeOf(value));
    } catch (error) {
      if (error instanceof SealError) return undefined;
      throw error;
    }
  };
}

function boxOf(key: string): SecretBox {
  try {
    return new SecretBox(Buffer.from(key, 'base64'));
  } catch {
    // A key that is none opens nothing.
    return new SecretBox(Buffer.alloc(KEY_BYTES));
  }
}

const KEY_BYTES = 32;

/** What a value is sealed for. @param oldSite - the id that its site had, where it has another one now */
export function purposeOf(value: SealedValue, oldSite?: number): string {
  switch (value.kind) {
    case 'second-factor':
      return SEAL_PURPOSES.secondFactor(value.member);
    case 'host-access':
      return SEAL_PURPOSES.hostAccess(oldSite ?? value.site, value.host);
    case 'webhook':
      return SEAL_PURPOSES.webhook(oldSite ?? value.site, value.url);
  }
}
