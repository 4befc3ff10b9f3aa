import { Type } from '@mikro-orm/core';

/** `int[]`: four bytes a number. */
export class IntegerList extends Type<readonly number[], string> {
  override convertToDatabaseValue(value: readonly number[]): string {
    return `{${value.join()}}`;
  }

  /** The driver gives a list, or the text of one. */
  override convertToJSValue(value: readonly number[] | string): readonly number[] {
    return typeof value === 'string' ? value.slice(1, -1).split(',').filter(Boolean).map(Number) : value;
  }

  override getColumnType(): string {
    return 'int[]';
  }
}
