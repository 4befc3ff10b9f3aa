import { useSwitchSnippet } from '../../api/mutations';
import { Switch } from '../../ui/switch';
import { useToast } from '../../ui/toast';
import { STRIP } from '../../texts/strip';
import { say } from '../../texts/say';

/** Switches a snippet in the draft; what was done can be undone from the message. */
export function SnippetSwitch({
  site,
  snippet,
  name,
  isOn,
}: {
  site: string;
  snippet: string;
  name: string;
  isOn: boolean;
}) {
  const change = useSwitchSnippet(site);
  const toast = useToast();
  const set = (on: boolean): void => {
    change.run({ snippet, state: on ? 'on' : 'off' }, () =>
      toast({
        tone: 'done',
        title: say(on ? STRIP.switchedOn : STRIP.switchedOff, { name }),
        text: STRIP.visitorsNoticeWhen,
        action: { label: STRIP.undo, run: () => change.run({ snippet, state: on ? 'off' : 'on' }) },
      }),
    );
  };
  return (
    <Switch
      needs="edit"
      aria-label={say(STRIP.nameIsOn, { name })}
      checked={change.isPending ? !isOn : isOn}
      disabled={change.isPending}
      onCheckedChange={set}
    />
  );
}
