import type { Device } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { pagesQuery } from '../../api/queries';
import { PLACE } from '../../texts/place';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
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
const MAX_OFFERED = 500;

/** Asks which page is to be shown. */
export function ShownPageForm({ site, shown, onShow }: ShownPageFormProps) {
  const known = useQuery(pagesQuery(site)).data?.paths ?? [];
  const [path, setPath] = useState(shown.path);
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        // The form around it, of which it is a part to React, is not sent.
        event.stopPropagation();
        onShow({ ...shown, path: path.startsWith('/') ? path : `/${path}` });
      }}
    >
      <Field
        label={PLACE.page}
        list="known-pages"
        value={path}
        onChange={(event) => setPath(event.target.value)}
      />
      <datalist id="known-pages">
        {known.slice(0, MAX_OFFERED).map((one) => (
          <option key={one} value={one} />
        ))}
      </datalist>
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
