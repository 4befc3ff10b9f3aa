import { KEY_PATTERN, keyFromName } from '@pragmatica/core';
import { ServiceError } from '../errors.js';
import { fieldError } from '../texts/field-errors.js';

/** A key that was given, or one made from the name. @throws ServiceError 422 */
export function keyOrFromName(key: string | undefined, name: string): string {
  const made = key ?? keyFromName(name);
  if (KEY_PATTERN.test(made)) return made;
  throw new ServiceError('no-key-from-name', {}, { errors: [fieldError('/key', 'key-needed', {})] });
}
