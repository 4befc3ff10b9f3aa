import type { ImportInput, ImportedResource } from '@pragmatica/contract';
import { useMutation } from '@tanstack/react-query';
import { Download } from 'lucide-react';
import { useState } from 'react';
import { previewImport, siteText, useImportSet } from '../../api/files';
import { SETTINGS } from '../../texts/settings';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { saveFile } from '../../ui/save-file';
import { HelpLink } from '../../ui/help-link';
import { ChooseFile, readJsonFile } from '../../ui/choose-file';
import { FormError } from '../../ui/field';
import { FormDialog } from '../../ui/form-dialog';
import { useToast } from '../../ui/toast';

interface Chosen {
  readonly name: string;
  readonly set: ImportInput['set'];
  readonly preview: ImportedResource;
  readonly etag: string;
}

/** The site out of this installation as a file, and a set from a file into it. */
export function FileSection({ site }: { site: string }) {
  const toast = useToast();
  const [chosen, setChosen] = useState<Chosen>();
  const bring = useImportSet(site);
  const download = useMutation({
    mutationFn: async () => saveFile(`${site}.json`, await siteText(site), 'application/json'),
  });
  const choose = useMutation({
    mutationFn: async (file: File) => {
      const set = (await readJsonFile(file, 'pragmatica-set/1')) as ImportInput['set'] | undefined;
      if (!set) {
        const title = say(SETTINGS.notASet, { file: file.name });
        toast({ tone: 'problem', title, text: SETTINGS.notASetText });
        return;
      }
      setChosen({ name: file.name, set, ...(await previewImport(site, set)) });
    },
  });
  const errors = chosen?.preview.found.filter(({ severity }) => severity === 'error') ?? [];
  return (
    <section
      aria-label={SETTINGS.fileTitle}
      className="space-y-4 rounded-xl border border-line bg-surface p-4 text-sm sm:p-5"
    >
      <div>
        <h2 className="flex items-center gap-1.5">
          {SETTINGS.fileTitle} <HelpLink to="in-and-out#a-whole-site" subject={SETTINGS.fileTitle} />
        </h2>
        <p className="text-muted">{SETTINGS.fileText}</p>
      </div>
      <Button isBusy={download.isPending} onClick={() => download.mutate()}>
        <Download className="size-4" aria-hidden /> {SETTINGS.download}
      </Button>
      <div>
        <h3>{SETTINGS.setTitle}</h3>
        <p className="text-muted">{SETTINGS.setText}</p>
      </div>
      <ChooseFile label={SETTINGS.setFile} isBusy={choose.isPending} onChoose={(file) => choose.mutate(file)}>
        {SETTINGS.chooseSet}
      </ChooseFile>
      <FormError error={download.error ?? choose.error} />
      {chosen && (
        <FormDialog
          title={say(SETTINGS.bringTitle, { file: chosen.name })}
          description={say(SETTINGS.bringText, { count: chosen.preview.changes.length })}
          isOpen
          onOpenChange={(isOpen) => !isOpen && setChosen(undefined)}
          onSubmit={() =>
            bring.run({ set: chosen.set, etag: chosen.etag }, () => {
              setChosen(undefined);
              toast({ tone: 'done', title: SETTINGS.broughtTitle, text: SETTINGS.broughtText });
            })
          }
          submit={SETTINGS.bring}
          isBusy={bring.isPending}
          isDisabled={chosen.preview.changes.length === 0}
          leave={SETTINGS.cancelImport}
          error={bring.error}
        >
          <ul className="list-disc space-y-1 pl-5 text-sm">
            {chosen.preview.changes.map(({ message }) => (
              <li key={message}>{message}</li>
            ))}
          </ul>
          {errors.length > 0 && (
            <p className="text-sm text-danger">
              {say(SETTINGS.newErrors, { count: errors.length, list: errors.map(({ title }) => title) })}
            </p>
          )}
        </FormDialog>
      )}
    </section>
  );
}
