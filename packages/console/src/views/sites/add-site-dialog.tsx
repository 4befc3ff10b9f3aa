import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { api } from '../../api/client';
import { fieldErrorsOf } from '../../api/field-errors';
import { Button } from '../../ui/button';
import { Dialog, DialogActions } from '../../ui/dialog';
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
    <Dialog
      title={SITES.addSite}
      description={SITES.pragmaticaSGateway}
      isOpen={isOpen}
      onOpenChange={onOpenChange}
    >
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate();
        }}
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
        {add.error && !isShown && (
          <p role="alert" className="text-sm text-danger">
            {add.error.message}
          </p>
        )}
        <DialogActions leave={SITES.cancel}>
          <Button type="submit" look="primary" isBusy={add.isPending}>
            {SITES.confirmAdd}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
