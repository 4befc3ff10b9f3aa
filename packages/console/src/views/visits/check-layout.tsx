import { Outlet } from 'react-router';
import { VISITS } from '../../texts/visits';
import { TabLinks } from '../../ui/tab-links';

const TABS = [
  { to: '.', label: VISITS.tabCode },
  { to: 'browser', label: VISITS.tabBrowser },
  { to: 'why', label: VISITS.tabWhy },
] as const;

/** Is it live? The three ways to find out. */
export function CheckLayout() {
  return (
    <div className="space-y-4">
      <TabLinks label={VISITS.tabs} tabs={TABS} />
      <Outlet />
    </div>
  );
}
