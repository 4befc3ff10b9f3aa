import { useSwitchSnippet } from '../../api/mutations';
import { Switch } from '../../ui/switch';
import { useToast } from '../../ui/toast';

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
        title: `“${name}” is ${on ? 'on' : 'off'} in the draft`,
        text: 'Visitors notice when you publish.',
        action: { label: 'Undo', run: () => change.run({ snippet, state: on ? 'off' : 'on' }) },
      }),
    );
  };
  return (
    <Switch
      aria-label={`${name} is on`}
      checked={change.isPending ? !isOn : isOn}
      disabled={change.isPending}
      onCheckedChange={set}
    />
  );
}
