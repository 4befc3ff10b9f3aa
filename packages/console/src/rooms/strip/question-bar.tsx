import type { SiteResource } from '@pragmatica/contract';
import { ExternalLink } from 'lucide-react';
import { ToggleGroup } from 'radix-ui';
import { useId } from 'react';
import { Button } from '../../ui/button';
import { inputStyle } from '../../ui/field';
import { cn } from '../../ui/cn';

export type SetName = 'draft' | 'live';

interface QuestionBarProps {
  site: SiteResource | undefined;
  pages: { readonly paths: readonly string[]; readonly source: string; readonly message: string } | undefined;
  path: string;
  of: SetName;
  onAsk: (question: { path?: string; of?: SetName }) => void;
}

/** Which page load is being looked at. */
export function QuestionBar({ site, pages, path, of, onAsk }: QuestionBarProps) {
  const id = useId();
  const paths = pages?.paths ?? [];
  const shown = paths.includes(path) ? paths : [path, ...paths];
  const host = site?.hosts.find((entry) => entry.environment === 'live');
  const address = host && `${host.address ?? `http://${host.host}`}${path}`;
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
      <h1 className="mr-1 text-xl">
        <label htmlFor={id}>What a visitor of</label>
      </h1>
      <select
        id={id}
        className={cn(inputStyle, 'h-9 w-auto max-w-full min-w-40 py-1 font-mono text-[13px]')}
        value={path}
        onChange={(event) => onAsk({ path: event.target.value })}
      >
        {shown.map((entry) => (
          <option key={entry}>{entry}</option>
        ))}
      </select>
      <span className="text-xl font-semibold tracking-tight">gets</span>
      <ToggleGroup.Root
        type="single"
        value={of}
        onValueChange={(value) => {
          if (value !== '') onAsk({ of: value as SetName });
        }}
        aria-label="Which set"
        className="flex rounded-md border border-line-strong bg-raised p-0.5"
      >
        <SetToggle value="live" label={liveLabel(site)} />
        <SetToggle value="draft" label="after publishing" />
      </ToggleGroup.Root>
      {address && (
        <Button asChild look="quiet" size="small" className="ml-auto">
          <a href={address} target="_blank" rel="noreferrer">
            Open the page <ExternalLink className="size-3.5" aria-hidden />
          </a>
        </Button>
      )}
      {pages?.source === 'assumed' && <p className="w-full text-[13px] text-muted">{pages.message}</p>}
    </div>
  );
}

function SetToggle({ value, label }: { value: SetName; label: string }) {
  return (
    <ToggleGroup.Item
      value={value}
      className="h-8 rounded px-3 text-sm font-medium text-muted data-[state=on]:bg-primary-soft data-[state=on]:text-primary"
    >
      {label}
    </ToggleGroup.Item>
  );
}

function liveLabel(site: SiteResource | undefined): string {
  const release = site?.environments.live;
  return release === null || release === undefined ? 'now' : `now (release ${release})`;
}
