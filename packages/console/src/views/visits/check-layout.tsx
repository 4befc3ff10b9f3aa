import { Outlet } from 'react-router';
import { VISITS } from '../../texts/visits';
import { WEIGHT } from '../../texts/weight';
import { WATCH } from '../../texts/watch';
import { TabLinks } from '../../ui/tab-links';

const TABS = [
  { to: '.', label: VISITS.tabCode },
  { to: 'browser', label: VISITS.tabBrowser },
  { to: 'why', label: VISITS.tabWhy },
  { to: 'weight', label: WEIGHT.tab },
  { to: 'watch', label: WATCH.tab },
] as const;

/** Is it live? The ways to find out, and whether it stays so. */
export function CheckLayout() {
  return (
    <div className="space-y-4">
      <TabLinks label={VISITS.tabs} tabs={TABS} />
      <Outlet />
    </div>
  );
}
