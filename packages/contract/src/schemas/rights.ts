import { RIGHTS, ROLES, TOKEN_ROLES } from '@pragmatica/core';
import { z } from 'zod';
import { key } from './common.js';

export const right = z.enum(RIGHTS);

export const role = z.enum(ROLES).meta({
  id: 'Role',
  description:
    'What a member may do: look (view), change drafts (edit), put them before visitors (publish), give others a role and set up the site (own). Each can do what the ones before it can.',
});

export const tokenRole = z.enum(TOKEN_ROLES).meta({
  id: 'TokenRole',
  description: 'A role, or “deploy”: publish what others have edited, for a build pipeline.',
});

/** At all sites, those to come too, and for the installation. */
export const installationRole = role.nullable().meta({
  description: 'At all sites, those to come too, and for the installation; null for none.',
});

export const siteRole = z.strictObject({ site: key, role });
