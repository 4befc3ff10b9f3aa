/** Where something can be done about the findings of a check, by the check's id; relative to the findings. */
export const FINDING_LINKS: Readonly<
  Record<string, { readonly label: string; readonly to: string } | undefined>
> = {
  'open-step': { label: 'To the checklist', to: '../checklist' },
  'recipe-behind': { label: 'See what would change', to: '/recipes/updates' },
  'recipe-need': { label: 'To the recipes', to: '/recipes' },
  'recipe-retired': { label: 'To the recipes', to: '/recipes' },
  'field-example': { label: 'To the fields', to: '/fields' },
};
