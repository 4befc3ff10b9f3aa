import { Outlet } from 'react-router';
import { MEMBERS } from '../../texts/members';
import { SETTINGS } from '../../texts/settings';
import { TabLinks } from '../../ui/tab-links';

const TABS = [
  { to: '.', label: SETTINGS.tabSite },
  { to: 'hosts', label: SETTINGS.tabHosts },
  { to: 'fields', label: SETTINGS.fields },
  { to: 'pages', label: SETTINGS.pageGroups },
  { to: 'consent', label: SETTINGS.consent },
  { to: 'people', label: MEMBERS.people },
  { to: 'files', label: SETTINGS.tabFiles },
] as const;

/** The settings of a site, subject by subject. */
export function SettingsLayout() {
  return (
    <div className="space-y-3">
      <h1>{SETTINGS.settings}</h1>
      <TabLinks label={SETTINGS.subjects} tabs={TABS} />
      <Outlet />
    </div>
  );
}
