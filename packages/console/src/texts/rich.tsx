import type { NamesIn } from '@pragmatica/core';
import { Fragment, type ReactNode } from 'react';

const PLACEHOLDER = /\{(\w+)\}/;

/** A sentence of the catalogue with elements in it: links, times, lists. Its placeholders are plain names. */
export function rich<const Pattern extends string>(
  pattern: Pattern,
  elements: Readonly<Record<NamesIn<Pattern>, ReactNode>>,
): ReactNode {
  // Texts and names take turns.
  return pattern
    .split(PLACEHOLDER)
    .map((piece, index) => (
      <Fragment key={index}>{index % 2 === 0 ? piece : elements[piece as NamesIn<Pattern>]}</Fragment>
    ));
}

/** Elements as a list in running text. */
export function listed(
  elements: readonly { readonly key: string; readonly element: ReactNode }[],
): ReactNode {
  return elements.map(({ key, element }, index) => (
    <Fragment key={key}>
      {index > 0 && ', '}
      {element}
    </Fragment>
  ));
}
