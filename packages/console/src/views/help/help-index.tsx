import { Link, useOutletContext } from 'react-router';
import { HELP } from '../../texts/help';
import { HELP_GROUPS, type HelpPageName } from './pages';
import { titleOf } from './sections';

/** A page more needs its line. */
const ABOUT: Readonly<Record<HelpPageName, string>> = HELP.pages;

/** All pages under Help, by what somebody wants of them. */
export function HelpIndex() {
  const documents = useOutletContext<ReadonlyMap<string, string>>();
  return (
    <div className="space-y-6">
      <div>
        <h1>{HELP.help}</h1>
        <p className="text-sm text-muted">{HELP.lead}</p>
      </div>
      <div className="gap-4 sm:columns-2">
        {HELP_GROUPS.map(({ key, pages }) => (
          <section
            key={key}
            className="mb-4 break-inside-avoid rounded-xl border border-line bg-surface p-4 sm:p-5"
          >
            <h2 className="mb-2">{HELP.groups[key]}</h2>
            <ul className="space-y-2.5 text-sm" lang="en">
              {pages.map((page) => (
                <li key={page}>
                  <Link to={`/help/${page}`} className="text-primary hover:underline">
                    {titleOf(documents.get(page)!)}
                  </Link>
                  <p className="text-[13px] text-muted" lang={document.documentElement.lang}>
                    {ABOUT[page]}
                  </p>
                </li>
              ))}
            </ul>
          </section>
        ))}
      </div>
    </div>
  );
}
