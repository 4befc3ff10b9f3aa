import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { api } from '../../api/client';
import { fieldErrorsOf } from '../../api/field-errors';
import { FormDialog } from '../../ui/form-dialog';
import { Field } from '../../ui/field';
import { SITES } from '../../texts/sites';

export function AddSiteDialog({
  isOpen,
  onOpenChange,
}: {
  isOpen: boolean;
  onOpenChange: (isOpen: boolean) => void;
}) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [name, setName] = useState('');
  const [host, setHost] = useState('');
  const [origin, setOrigin] = useState('');
  const add = useMutation({
    mutationFn: async () => {
      const timeZone = Intl.DateTimeFormat().resolvedOptions().timeZone;
      return (
        await api.call('createSite', {
          body: { name, timeZone, hosts: [{ host, origin, environment: 'live' }] },
        })
      ).data;
    },
    onSuccess: async (site) => {
      await client.invalidateQueries({ queryKey: ['sites'] });
      onOpenChange(false);
      await navigate(`/sites/${site.key}/strip`);
    },
  });
  const errors = fieldErrorsOf(add.error);
  const isShown = errors.at('/name', '/hosts/0/host', '/hosts/0/origin') !== undefined;
  return (
    <FormDialog
      title={SITES.addSite}
      description={SITES.pragmaticaSGateway}
      isOpen={isOpen}
      onOpenChange={onOpenChange}
      onSubmit={() => {
        add.mutate();
      }}
      error={isShown ? undefined : add.error}
      submit={SITES.confirmAdd}
      isBusy={add.isPending}
      leave={SITES.cancel}
    >
      <Field
        label={SITES.name}
        required
        placeholder={SITES.tideMillBakery}
        value={name}
        onChange={(event) => setName(event.target.value)}
        error={errors.at('/name')}
      />
      <Field
        label={SITES.hostVisitorsType}
        required
        placeholder={SITES.wwwExampleCom}
        value={host}
        onChange={(event) => setHost(event.target.value)}
        error={errors.at('/hosts/0/host')}
      />
      <Field
        label={SITES.serverHoldsPages}
        required
        placeholder={SITES.httpOriginExample}
        hint={SITES.whereGatewayFetches}
        value={origin}
        onChange={(event) => setOrigin(event.target.value)}
        error={errors.at('/hosts/0/origin')}
      />
    </FormDialog>
  );
}
