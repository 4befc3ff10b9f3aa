import { FINDINGS } from '../../texts/findings.js';

/** Where something can be done about the findings of a check, by the check's id; relative to the findings. */
export const FINDING_LINKS: Readonly<
  Record<string, { readonly label: string; readonly to: string } | undefined>
> = {
  'open-step': { label: FINDINGS.checklist, to: '../checklist' },
  'recipe-behind': { label: FINDINGS.seeWhatWould, to: '/recipes/updates' },
  'recipe-need': { label: FINDINGS.recipes, to: '/recipes' },
  'recipe-retired': { label: FINDINGS.recipes, to: '/recipes' },
  'field-example': { label: FINDINGS.fields, to: '/fields' },
};
