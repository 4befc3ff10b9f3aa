import type { MemberResource } from '@pragmatica/contract';
import { Command } from 'cmdk';
import { Search } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { PALETTE } from '../../texts/palette';
import { say } from '../../texts/say';
import { Button } from '../../ui/button';
import { Dialog } from '../../ui/dialog';
import { found } from './match';
import { usePlaces, type PalettePlace } from './use-places';

/** So many of a group are shown: with nothing typed, and once somebody looks for something. */
const FIRST = 5;
const FOUND = 8;

const KEYS = /Mac|iPhone|iPad/.test(navigator.userAgent) ? PALETTE.keysOnMac : PALETTE.keys;

/** The button and the keys by which everything is found. */
export function PaletteButton({ member }: { member: MemberResource }) {
  const [isOpen, setOpen] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.key.toLowerCase() !== 'k' || !(event.ctrlKey || event.metaKey) || event.altKey) return;
      event.preventDefault();
      setOpen((before) => !before);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  return (
    <>
      <Button
        look="quiet"
        className="max-sm:px-2"
        aria-keyshortcuts="Control+K Meta+K"
        title={say(PALETTE.openHint, { keys: KEYS })}
        onClick={() => setOpen(true)}
      >
        <Search className="size-4" aria-hidden />
        <span className="max-sm:sr-only">{PALETTE.open}</span>
        <kbd className="rounded border border-line px-1 text-[11px] text-muted max-md:hidden" aria-hidden>
          {KEYS}
        </kbd>
      </Button>
      <Dialog title={PALETTE.title} description={PALETTE.text} isOpen={isOpen} onOpenChange={setOpen}>
        <Palette member={member} onDone={() => setOpen(false)} />
      </Dialog>
    </>
  );
}

function Palette({ member, onDone }: { member: MemberResource; onDone: () => void }) {
  const { site } = useParams();
  const { groups, isPending } = usePlaces(member, site);
  const [typed, setTyped] = useState('');
  const navigate = useNavigate();
  const most = typed.trim() === '' ? FIRST : FOUND;
  const shown = groups
    .map(({ title, places }) => ({ title, places: found(places, typed, most) }))
    .filter(({ places }) => places.length > 0);
  const choose = ({ to, act }: PalettePlace): void => {
    onDone();
    act?.();
    if (to !== undefined) void navigate(to);
  };
  return (
    <Command label={PALETTE.title} shouldFilter={false} loop>
      <Command.Input
        value={typed}
        onValueChange={setTyped}
        placeholder={PALETTE.placeholder}
        className="w-full rounded-md border border-line-strong bg-raised px-3 py-2 text-sm text-ink"
      />
      <Command.List label={PALETTE.list} className="mt-3 max-h-[50vh] overflow-y-auto">
        {isPending && <Command.Loading>{PALETTE.loading}</Command.Loading>}
        {shown.length === 0 && !isPending && (
          <p role="status" className="px-2 py-3 text-sm text-muted">
            {PALETTE.none}
          </p>
        )}
        {shown.map(({ title, places }) => (
          <Command.Group
            key={title}
            heading={title}
            className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:font-medium [&_[cmdk-group-heading]]:text-muted"
          >
            {places.map((place) => (
              <Row key={place.id} place={place} onChoose={() => choose(place)} />
            ))}
          </Command.Group>
        ))}
      </Command.List>
    </Command>
  );
}

function Row({ place, onChoose }: { place: PalettePlace; onChoose: () => void }) {
  const { id, label, note, icon: Icon } = place;
  return (
    <Command.Item
      value={id}
      onSelect={onChoose}
      className="flex cursor-pointer items-center gap-2 rounded-md px-2 py-1.5 text-sm data-[selected=true]:bg-primary-soft"
    >
      <Icon className="size-4 shrink-0 text-muted" aria-hidden />
      <span className="min-w-0 flex-1 truncate">{label}</span>
      {note !== undefined && <span className="text-xs text-muted">{note}</span>}
    </Command.Item>
  );
}
