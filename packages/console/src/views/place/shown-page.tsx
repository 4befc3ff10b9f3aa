import type { Device } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { useId, useState } from 'react';
import { pagesQuery } from '../../api/queries';
import { PLACE } from '../../texts/place';
import { Button } from '../../ui/button';
import { Labelled } from '../../ui/labelled';
import { PageCombobox } from '../../ui/page-combobox';
import { SelectField } from '../../ui/select-field';

/** The page that a picture is of, and the size of its window. */
export interface ShownPage {
  readonly path: string;
  readonly device: Device;
}

interface ShownPageFormProps {
  readonly site: string;
  readonly shown: ShownPage;
  readonly onShow: (shown: ShownPage) => void;
}

const DEVICES = ['desktop', 'tablet', 'phone'] as const satisfies readonly Device[];

/** Asks which page is to be shown. */
export function ShownPageForm({ site, shown, onShow }: ShownPageFormProps) {
  const known = useQuery(pagesQuery(site)).data?.paths ?? [];
  const [path, setPath] = useState(shown.path);
  const id = useId();
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        // The form around it, of which it is a part to React, is not sent.
        event.stopPropagation();
        onShow({ ...shown, path });
      }}
    >
      <Labelled id={id} label={PLACE.page}>
        <PageCombobox id={id} paths={known} path={path} onChoose={setPath} className="h-9.5 w-64" />
      </Labelled>
      <SelectField
        label={PLACE.device}
        value={shown.device}
        options={DEVICES.map((device) => [device, PLACE.devices[device]])}
        onChange={(device) => onShow({ ...shown, device: device as Device })}
      />
      <Button type="submit">{PLACE.show}</Button>
    </form>
  );
}
