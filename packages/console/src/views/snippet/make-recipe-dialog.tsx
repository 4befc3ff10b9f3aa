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
import { SNIPPET } from '../../texts/snippet';
import { say } from '../../texts/say';

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
      title={isNext ? SNIPPET.makeNextVersion : say(SNIPPET.makeRecipeName, { name: snippet.name })}
      description={isNext ? SNIPPET.snippetSavedHere : SNIPPET.snippetSavedHereAccounts}
      isOpen
      onOpenChange={(isOpen) => {
        if (!isOpen) onClose();
      }}
    >
      {preview.isPending && <Loading lines={2} label={SNIPPET.readingSnippet} />}
      {preview.isError && <Failure error={preview.error} />}
      {preview.data && (
        <div className="space-y-4 text-sm">
          <dl className="space-y-2">
            <div>
              <dt className="font-medium">{SNIPPET.puts}</dt>
              {preview.data.parts.map(({ key, placement }) => (
                <dd key={key} className="text-muted">
                  {key}, {placementWords(placement)}
                </dd>
              ))}
            </div>
            <div>
              <dt className="font-medium">{SNIPPET.asks}</dt>
              {preview.data.fields.length === 0 && <dd className="text-muted">{SNIPPET.nothing}</dd>}
              {preview.data.fields.map(({ name, label }) => (
                <dd key={name} className="text-muted">
                  {label} <code className="font-mono text-xs">@{`{${name}}`}</code>
                </dd>
              ))}
            </div>
          </dl>
          <Field
            label={isNext ? SNIPPET.whatNew : SNIPPET.nameRecipe}
            placeholder={isNext ? SNIPPET.chatLoadsAfter : snippet.name}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        </div>
      )}
      <DialogActions leave={SNIPPET.notNow}>
        <Button
          look="primary"
          isBusy={make.isPending}
          disabled={!preview.data}
          onClick={() =>
            make.run(given, ({ key, name, version }) => {
              onClose();
              toast({ tone: 'done', title: say(SNIPPET.versionVersionRecipe, { version, name }) });
              void navigate(`/recipes/${key}`);
            })
          }
        >
          {isNext
            ? say(SNIPPET.makeVersionVersion, { version: preview.data?.version ?? '' })
            : SNIPPET.makeRecipe}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
