import { FieldsEditor } from './fields-editor';
import { SettingsPart } from './settings-part';

/** The values that the site's code uses by name. */
export function FieldsView() {
  return (
    <SettingsPart read={({ fields }) => ({ fields })} toPatch={({ fields }) => ({ fields })}>
      {({ value, set, errorAt }) => (
        <FieldsEditor fields={value.fields} onChange={(fields) => set({ fields })} errorAt={errorAt} />
      )}
    </SettingsPart>
  );
}
