import { languageTag } from '@pragmatica/core';
import { sendOwnPage } from '@pragmatica/runtime';
import type { Response } from 'express';

/** Answers with a page of our own, where there is none of the site to show. */
export function answer(response: Response, status: number, title: string, text: string): void {
  sendOwnPage(response, { status, title, text, language: languageTag() });
}
