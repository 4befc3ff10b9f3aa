import { useState } from 'react';
import { useNavigate } from 'react-router';
import { fieldErrorsOf } from '../../api/field-errors';
import { useAdoptSighting } from '../../api/mutations';
import type { SightingDetailData } from '../../api/surveys';
import { say } from '../../texts/say';
import { SURVEY } from '../../texts/survey';
import { FormDialog } from '../../ui/form-dialog';
import { Field } from '../../ui/field';
import { useToast } from '../../ui/toast';
import { kindWords } from './kind-words';

interface AdoptDialogProps {
  readonly site: string;
  readonly sighting: SightingDetailData;
  readonly isOpen: boolean;
  readonly onOpenChange: (isOpen: boolean) => void;
}

/** Making a snippet of what was found: what it is called, and what belongs to it. */
export function AdoptDialog({ site, sighting, isOpen, onOpenChange }: AdoptDialogProps) {
  const adopt = useAdoptSighting(site);
  const toast = useToast();
  const navigate = useNavigate();
  const [name, setName] = useState(sighting.proposal.name);
  const [along, setAlong] = useState<readonly number[]>(sighting.companions.map(({ id }) => id));
  const toggle = (id: number): void =>
    setAlong((before) => (before.includes(id) ? before.filter((one) => one !== id) : [...before, id]));
  return (
    <FormDialog
      title={say(SURVEY.adoptTitle, { name: sighting.name })}
      description={SURVEY.adoptText}
      isOpen={isOpen}
      onOpenChange={onOpenChange}
      onSubmit={() => {
        adopt.run({ sighting: sighting.id, name, with: [...along] }, ({ snippet, words }) => {
          onOpenChange(false);
          toast({
            tone: 'done',
            title: SURVEY.adoptDone,
            text: words,
            action: {
              label: SURVEY.openSnippet,
              run: () => void navigate(`/sites/${site}/snippets/${snippet}`),
            },
          });
        });
      }}
      submit={SURVEY.adopt}
      isBusy={adopt.isPending}
      leave={SURVEY.later}
    >
      <Field
        label={SURVEY.adoptName}
        required
        maxLength={120}
        value={name}
        error={fieldErrorsOf(adopt.error).at('/key', '/name')}
        onChange={(event) => setName(event.target.value)}
      />
      <div className="text-sm">
        <p className="font-medium">{SURVEY.adoptPages}</p>
        <p>{sighting.proposal.words}</p>
        <p className="text-[13px] text-muted">{SURVEY.adoptPagesHint}</p>
      </div>
      {sighting.companions.length > 0 && (
        <fieldset className="space-y-1 text-sm">
          <legend className="font-medium">{SURVEY.adoptWith}</legend>
          {sighting.companions.map((one) => (
            <label key={one.id} className="flex items-center gap-2">
              <input
                type="checkbox"
                className="size-4 accent-(--primary)"
                checked={along.includes(one.id)}
                onChange={() => toggle(one.id)}
              />
              {one.name} <span className="text-muted">{kindWords(one.kind)}</span>
            </label>
          ))}
        </fieldset>
      )}
    </FormDialog>
  );
}
