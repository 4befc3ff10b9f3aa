import { ApiError } from '@pragmatica/contract';
import { FIRST_LOOK_PAGES } from '@pragmatica/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { addSite, lookAtAddress } from '../../api/sites';
import { fieldErrorsOf } from '../../api/field-errors';
import { startSurvey } from '../../api/surveys';
import { FormDialog } from '../../ui/form-dialog';
import { Field } from '../../ui/field';
import { SITES } from '../../texts/sites';

/** Asks for the address of a site and nothing else; what it is, Pragmatica sees for itself. */
export function AddSiteDialog({
  isOpen,
  onOpenChange,
}: {
  isOpen: boolean;
  onOpenChange: (isOpen: boolean) => void;
}) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [address, setAddress] = useState('');
  const add = useMutation({
    mutationFn: async () => {
      const site = await addSite(await lookAtAddress(address));
      // What goes wrong from here on is told by the survey itself.
      await startSurvey(site.key, { limit: FIRST_LOOK_PAGES, side: 'public' }).catch((error: unknown) => {
        if (!(error instanceof ApiError)) throw error;
      });
      return site;
    },
    onSuccess: async (site) => {
      await client.invalidateQueries({ queryKey: ['sites'] });
      onOpenChange(false);
      await navigate(`/sites/${site.key}/start`);
    },
  });
  const problem = fieldErrorsOf(add.error).at('/address');
  return (
    <FormDialog
      title={SITES.addSite}
      description={SITES.onlyTheAddress}
      isOpen={isOpen}
      onOpenChange={onOpenChange}
      onSubmit={() => add.mutate()}
      error={problem === undefined ? add.error : undefined}
      submit={SITES.lookAtIt}
      isBusy={add.isPending}
      leave={SITES.cancel}
    >
      <Field
        label={SITES.address}
        required
        autoFocus
        inputMode="url"
        autoCapitalize="none"
        spellCheck={false}
        placeholder={SITES.wwwExampleCom}
        hint={SITES.addressHint}
        value={address}
        onChange={(event) => setAddress(event.target.value)}
        error={problem}
      />
    </FormDialog>
  );
}
