import type { ServerResponse } from 'node:http';
import { formatMessage, languageTag } from '@pragmatica/core';
import { sendOwnPage } from '@pragmatica/runtime';

/** A title and a text, as their catalogue has them. */
export interface OwnWords {
  readonly title: string;
  readonly text: string;
}

/** Answers with a page of our own. @param names - what the words fill in */
export function answer(
  response: ServerResponse,
  status: number,
  { title, text }: OwnWords,
  names: Readonly<Record<string, string>> = {},
): void {
  sendOwnPage(response, { status, title, text: formatMessage(text, names), language: languageTag() });
}
