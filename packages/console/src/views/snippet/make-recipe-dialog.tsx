import type { SnippetResource } from '@pragmatica/contract';
import { placementWords } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useMakeRecipe } from '../../api/mutations';
import { recipePreviewQuery } from '../../api/queries';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
import { Field } from '../../ui/field';
import { Failure, Loading } from '../../ui/states';
import { useToast } from '../../ui/toast';

interface MakeRecipeDialogProps {
  readonly site: string;
  readonly snippet: SnippetResource;
  readonly onClose: () => void;
}

/** Makes a recipe of a snippet in one step, after a look at it. */
export function MakeRecipeDialog({ site, snippet, onClose }: MakeRecipeDialogProps) {
  const preview = useQuery(recipePreviewQuery(site, snippet.key));
  const make = useMakeRecipe(site, snippet.key);
  const [text, setText] = useState('');
  const navigate = useNavigate();
  const toast = useToast();
  const isNext = snippet.recipe !== null;
  const given = text.trim() === '' ? {} : isNext ? { changes: text } : { name: text };
  return (
    <Dialog
      title={isNext ? 'Make the next version of its recipe' : `Make a recipe of “${snippet.name}”`}
      description={
        isNext
          ? 'As the snippet is saved here. The other installs are then behind, and you see what would change before you bring one up.'
          : 'As the snippet is saved here. Accounts in its code become fields, which other sites are asked for. The snippet follows the recipe from then on.'
      }
      isOpen
      onOpenChange={(isOpen) => {
        if (!isOpen) onClose();
      }}
    >
      {preview.isPending && <Loading lines={2} label="Reading the snippet" />}
      {preview.isError && <Failure error={preview.error} />}
      {preview.data && (
        <div className="space-y-4 text-sm">
          <dl className="space-y-2">
            <div>
              <dt className="font-medium">Puts</dt>
              {preview.data.parts.map(({ key, placement }) => (
                <dd key={key} className="text-muted">
                  {key}, {placementWords(placement)}
                </dd>
              ))}
            </div>
            <div>
              <dt className="font-medium">Asks for</dt>
              {preview.data.fields.length === 0 && <dd className="text-muted">nothing</dd>}
              {preview.data.fields.map(({ name, label }) => (
                <dd key={name} className="text-muted">
                  {label} <code className="font-mono text-xs">@{`{${name}}`}</code>
                </dd>
              ))}
            </div>
          </dl>
          <Field
            label={isNext ? 'What is new' : 'Name of the recipe'}
            placeholder={isNext ? 'The chat loads after the page.' : snippet.name}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        </div>
      )}
      <DialogActions leave="Not now">
        <Button
          look="primary"
          isBusy={make.isPending}
          disabled={!preview.data}
          onClick={() =>
            make.run(given, ({ key, name, version }) => {
              onClose();
              toast({ tone: 'done', title: `Version ${version} of the recipe “${name}” is made` });
              void navigate(`/recipes/${key}`);
            })
          }
        >
          {isNext ? `Make version ${preview.data?.version ?? ''}` : 'Make the recipe'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
