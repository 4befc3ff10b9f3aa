import { ArrowLeft } from 'lucide-react';
import { useEffect } from 'react';
import Markdown, { type Components } from 'react-markdown';
import { Link, useLocation, useOutletContext, useParams } from 'react-router';
import rehypeSlug from 'rehype-slug';
import remarkGfm from 'remark-gfm';
import { HELP } from '../../texts/help';
import { Empty } from '../../ui/states';
import { pictureAddress } from './documents';
import { helpAddress } from './help-address';
import { sectionsOf } from './sections';

/** One document, with its headings beside it where there is room. */
export function HelpPage() {
  const documents = useOutletContext<ReadonlyMap<string, string>>();
  const page = useParams()['page']!;
  const { hash } = useLocation();
  const markdown = documents.get(page);
  useEffect(() => {
    if (hash === '') window.scrollTo(0, 0);
    else document.getElementById(decodeURIComponent(hash.slice(1)))?.scrollIntoView();
  }, [page, hash, markdown]);
  if (markdown === undefined) return <Empty title={HELP.notFound}>{null}</Empty>;
  const headings = sectionsOf(page, markdown).filter(({ level }) => level === 2);
  return (
    <>
      <Link to="/help" className="inline-flex items-center gap-1 text-sm text-primary hover:underline">
        <ArrowLeft className="size-4" aria-hidden /> {HELP.allPages}
      </Link>
      <div className="grid items-start gap-8 lg:grid-cols-[minmax(0,1fr)_13rem]">
        <article lang="en" className="document min-w-0">
          <Markdown remarkPlugins={[remarkGfm]} rehypePlugins={[rehypeSlug]} components={COMPONENTS}>
            {markdown}
          </Markdown>
        </article>
        {headings.length > 1 && (
          <nav aria-label={HELP.onThisPage} className="sticky top-17 text-sm max-lg:hidden">
            <p className="mb-2 font-semibold">{HELP.onThisPage}</p>
            <ul className="max-h-[75vh] space-y-1.5 overflow-y-auto" lang="en">
              {headings.map(({ id, title }) => (
                <li key={id}>
                  <Link to={`/help/${id}`} className="text-muted hover:text-ink hover:underline">
                    {title}
                  </Link>
                </li>
              ))}
            </ul>
          </nav>
        )}
      </div>
    </>
  );
}

const COMPONENTS: Components = {
  a: function DocumentLink({ href = '', children }) {
    const address = helpAddress(useParams()['page']!, href);
    return address === undefined ? <span>{children}</span> : <Link to={address}>{children}</Link>;
  },
  img: ({ src, alt }) => {
    const address = typeof src === 'string' ? pictureAddress(src) : undefined;
    return address === undefined ? null : <img src={address} alt={alt ?? ''} loading="lazy" />;
  },
  // What is wider than the page scrolls by itself, also by the keyboard.
  pre: ({ children }) => <pre tabIndex={0}>{children}</pre>,
  table: ({ children }) => (
    <div className="overflow-x-auto" tabIndex={0} role="group">
      <table>{children}</table>
    </div>
  ),
};
