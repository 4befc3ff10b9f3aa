import { InvalidArgumentError } from 'commander';

/** An option's number. @throws InvalidArgumentError for anything else */
export function wholeNumber(text: string): number {
  if (/^\d{1,7}$/.test(text)) return Number(text);
  throw new InvalidArgumentError('');
}
