import { SETTINGS } from '../../texts/settings';
import { Field } from '../../ui/field';
import { SettingsPart } from './settings-part';

/** What the site is called, and its clocks. */
export function SiteView() {
  return (
    <div className="max-w-4xl">
      <SettingsPart
        read={({ name, timeZone }) => ({ name, timeZone })}
        toPatch={({ name, timeZone }) => ({ name, timeZone })}
      >
        {({ value, set, errorAt }) => (
          <section className="grid gap-4 rounded-xl border border-line bg-surface p-4 sm:grid-cols-2 sm:p-5">
            <Field
              label={SETTINGS.name}
              required
              value={value.name}
              onChange={(event) => set({ name: event.target.value })}
              hint={SETTINGS.nameHint}
              error={errorAt('/name')}
            />
            <Field
              label={SETTINGS.timeZone}
              required
              placeholder={SETTINGS.europeDublin}
              list="time-zones"
              value={value.timeZone}
              onChange={(event) => set({ timeZone: event.target.value })}
              hint={SETTINGS.timeZoneHint}
              help="reach#deciding"
              error={errorAt('/timeZone')}
            />
            <datalist id="time-zones">
              {Intl.supportedValuesOf('timeZone').map((zone) => (
                <option key={zone} value={zone} />
              ))}
            </datalist>
          </section>
        )}
      </SettingsPart>
    </div>
  );
}
