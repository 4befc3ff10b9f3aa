import { Link, useNavigate } from 'react-router';
import { useCreateSnippet } from '../../api/mutations';
import { useSiteKey } from '../../layout/site-layout';
import { useToast } from '../../ui/toast';
import { SnippetForm } from './snippet-form';
import { EMPTY_SNIPPET } from './snippet-value';
import { firstPage } from './first-page';
import { rich } from '../../texts/rich';
import { SNIPPET } from '../../texts/snippet';
import { say } from '../../texts/say';

export function AddSnippetView() {
  const site = useSiteKey();
  const navigate = useNavigate();
  const toast = useToast();
  const create = useCreateSnippet(site);
  return (
    <div className="space-y-4">
      <div>
        <h1>{SNIPPET.addSnippet}</h1>
        <p className="text-sm text-muted">
          {rich(SNIPPET.pasteWhatProvider, {
            link: (
              <Link to={`/recipes?site=${site}`} className="font-medium text-primary underline">
                {SNIPPET.installFromRecipe}
              </Link>
            ),
          })}
        </p>
      </div>
      <SnippetForm
        site={site}
        initial={EMPTY_SNIPPET}
        submitLabel={SNIPPET.addDraft}
        isBusy={create.isPending}
        error={create.error}
        onSubmit={(value) =>
          create.run(value, ({ data }) => {
            toast({
              tone: 'done',
              title: say(SNIPPET.nameDraft, { name: data.name }),
              text: SNIPPET.lookWhereStands,
            });
            void navigate(`/sites/${site}/strip?of=draft&path=${encodeURIComponent(firstPage(data.pages))}`);
          })
        }
      />
    </div>
  );
}
