import { z } from 'zod';
import type { Endpoint } from '../endpoint.js';
import * as schemas from '../schemas/index.js';
import { items, site, snippet } from './params.js';

/** Snippets of a site. */
export const snippetsEndpoints = {
  listSnippets: {
    method: 'GET',
    path: '/sites/{site}/snippets',
    summary: 'The draft’s snippets',
    params: site,
    response: items(schemas.snippet),
  },
  createSnippet: {
    method: 'POST',
    path: '/sites/{site}/snippets',
    summary: 'Add a snippet to the draft; its parts go last in their placements',
    params: site,
    body: schemas.snippetInput,
    response: schemas.snippet,
    status: 201,
  },
  switchSnippets: {
    method: 'POST',
    path: '/sites/{site}/snippet-states',
    summary: 'Switch several snippets of the draft on or off, or put them into the archive',
    params: site,
    body: schemas.stateChange,
    response: items(schemas.snippet),
  },
  moveSnippets: {
    method: 'POST',
    path: '/sites/{site}/snippet-placements',
    summary: 'Move several snippets of the draft to another placement, behind what stands there',
    params: site,
    body: schemas.placementChange,
    response: schemas.placementsChanged,
  },
  showSnippet: {
    method: 'GET',
    path: '/sites/{site}/snippets/{snippet}',
    summary: 'One snippet of the draft',
    params: snippet,
    response: schemas.snippet,
  },
  editSnippet: {
    method: 'PATCH',
    path: '/sites/{site}/snippets/{snippet}',
    summary: 'Change a snippet in the draft',
    params: snippet,
    body: schemas.snippetPatch,
    response: schemas.snippet,
    needsIfMatch: true,
  },
  removeSnippet: {
    method: 'DELETE',
    path: '/sites/{site}/snippets/{snippet}',
    summary: 'Remove a snippet from the draft; releases keep their copy',
    params: snippet,
    needsIfMatch: true,
  },
  copySnippet: {
    method: 'POST',
    path: '/sites/{site}/snippets/{snippet}/copy',
    summary: 'Copy a snippet of the draft, with the fields and page groups it uses, into other sites’ drafts',
    params: snippet,
    body: z.strictObject({ sites: z.array(schemas.key).min(1).max(200) }),
    response: schemas.siteResults,
  },
  showHistory: {
    method: 'GET',
    path: '/sites/{site}/snippets/{snippet}/history',
    summary: 'The releases that changed a snippet, the newest first, and how it was in each',
    params: snippet,
    response: items(schemas.snippetVersion),
  },
  showCalendar: {
    method: 'GET',
    path: '/sites/{site}/snippets/{snippet}/calendar',
    summary: 'The hours of a week in which a snippet of the draft is on',
    params: snippet,
    query: schemas.calendarQuery,
    response: schemas.calendar,
  },
} as const satisfies Record<string, Endpoint>;
