import { SITE_FORMAT, type ImportedSiteResource, type SiteFile } from '@pragmatica/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { fieldErrorsOf } from '../../api/field-errors';
import { importSite } from '../../api/files';
import { SITES } from '../../texts/sites';
import { say } from '../../texts/say';
import { ChooseFile, readJsonFile } from '../../ui/choose-file';
import { Field } from '../../ui/field';
import { FormDialog } from '../../ui/form-dialog';
import { useToast } from '../../ui/toast';

interface Chosen {
  readonly file: SiteFile;
  readonly preview: ImportedSiteResource;
}

/** Adds a site from its file, after showing what would come. */
export function ImportSite() {
  const toast = useToast();
  const [chosen, setChosen] = useState<Chosen>();
  const choose = useMutation({
    mutationFn: async (from: File) => {
      const file = (await readJsonFile(from, SITE_FORMAT)) as SiteFile | undefined;
      if (!file) {
        const title = say(SITES.notASite, { file: from.name });
        toast({ tone: 'problem', title, text: SITES.notASiteText });
        return;
      }
      setChosen({ file, preview: await importSite({ file, withHosts: true, preview: true }) });
    },
    onError: (error, { name }) =>
      toast({ tone: 'problem', title: say(SITES.notASite, { file: name }), text: error.message }),
  });
  return (
    <>
      <ChooseFile label={SITES.siteFile} isBusy={choose.isPending} onChoose={(file) => choose.mutate(file)}>
        {SITES.fromFile}
      </ChooseFile>
      {chosen && <ImportDialog chosen={chosen} onClose={() => setChosen(undefined)} />}
    </>
  );
}

function ImportDialog({ chosen: { file, preview }, onClose }: { chosen: Chosen; onClose: () => void }) {
  const { taken } = preview;
  const client = useQueryClient();
  const navigate = useNavigate();
  const [key, setKey] = useState(preview.taken.key ? `${preview.key}-2` : preview.key);
  const [withHosts, setWithHosts] = useState(preview.hosts.length > 0 && taken.hosts.length === 0);
  const add = useMutation({
    mutationFn: () => importSite({ file, key, withHosts, preview: false }),
    onSuccess: async (added) => {
      await client.invalidateQueries({ queryKey: ['sites'] });
      onClose();
      await navigate(`/sites/${added.key}`);
    },
  });
  const { name, snippets, releases, recipes, hosts } = preview;
  const problem = fieldErrorsOf(add.error).at('/key');
  return (
    <FormDialog
      title={say(SITES.importTitle, { name })}
      description={say(SITES.importText, { snippets, releases, recipes: recipes.length })}
      isOpen
      onOpenChange={(isOpen) => !isOpen && onClose()}
      onSubmit={() => add.mutate()}
      error={problem === undefined ? add.error : undefined}
      submit={SITES.importAdd}
      isBusy={add.isPending}
      leave={SITES.cancel}
    >
      <Field
        label={SITES.importKey}
        hint={taken.key ? say(SITES.importKeyTaken, { key: preview.key }) : SITES.importKeyHint}
        required
        spellCheck={false}
        value={key}
        onChange={(event) => setKey(event.target.value)}
        error={problem}
      />
      {hosts.length > 0 && (
        <label className="flex items-start gap-2 text-sm">
          <input
            type="checkbox"
            className="mt-1"
            checked={withHosts}
            disabled={taken.hosts.length > 0}
            onChange={(event) => setWithHosts(event.target.checked)}
          />
          {taken.hosts.length > 0
            ? say(SITES.importHostsTaken, { list: taken.hosts })
            : say(SITES.importHosts, { list: hosts })}
        </label>
      )}
    </FormDialog>
  );
}
