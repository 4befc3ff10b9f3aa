import { Outlet } from 'react-router';
import { CHECK_TABS } from '../../layout/site-sections';
import { VISITS } from '../../texts/visits';
import { TabLinks } from '../../ui/tab-links';

/** Is it live? The ways to find out, and whether it stays so. */
export function CheckLayout() {
  return (
    <div className="space-y-4">
      <TabLinks label={VISITS.tabs} tabs={CHECK_TABS} />
      <Outlet />
    </div>
  );
}
