import { Outlet } from 'react-router';
import { SETTINGS_TABS } from '../../layout/site-sections';
import { SETTINGS } from '../../texts/settings';
import { TabLinks } from '../../ui/tab-links';

/** The settings of a site, subject by subject. */
export function SettingsLayout() {
  return (
    <div className="space-y-3">
      <h1>{SETTINGS.settings}</h1>
      <TabLinks label={SETTINGS.subjects} tabs={SETTINGS_TABS} />
      <Outlet />
    </div>
  );
}
