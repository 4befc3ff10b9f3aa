import { Link, useNavigate } from 'react-router';
import { useCreateSnippet } from '../../api/mutations';
import { useSiteKey } from '../../layout/site-layout';
import { useToast } from '../../ui/toast';
import { SnippetForm } from './snippet-form';
import { EMPTY_SNIPPET } from './snippet-value';
import { firstPage } from './first-page';

export function AddSnippetView() {
  const site = useSiteKey();
  const navigate = useNavigate();
  const toast = useToast();
  const create = useCreateSnippet(site);
  return (
    <div className="space-y-4">
      <div>
        <h1>Add a snippet</h1>
        <p className="text-sm text-muted">
          Paste what the provider gave you. Pragmatica reads it and says what it is, where it goes and whether
          it fits with the rest. If it came in two pieces, put both in here: then it can never be half on. Or{' '}
          <Link to={`/recipes?site=${site}`} className="font-medium text-primary underline">
            install it from a recipe
          </Link>
          .
        </p>
      </div>
      <SnippetForm
        site={site}
        initial={EMPTY_SNIPPET}
        submitLabel="Add to the draft"
        isBusy={create.isPending}
        error={create.error}
        onSubmit={(value) =>
          create.run(value, ({ data }) => {
            toast({
              tone: 'done',
              title: `“${data.name}” is in the draft`,
              text: 'Look where it stands, then publish.',
            });
            void navigate(`/sites/${site}/strip?of=draft&path=${encodeURIComponent(firstPage(data.pages))}`);
          })
        }
      />
    </div>
  );
}
