import { Upload } from 'lucide-react';
import { useRef } from 'react';
import { Button } from './button';

interface ChooseFileProps {
  /** What the button says. */
  readonly children: string;
  /** What is asked for, for those who do not see it. */
  readonly label: string;
  readonly isBusy?: boolean;
  /** @defaultValue JSON */
  readonly accept?: string;
  readonly onChoose: (file: File) => void;
}

/** A button that asks for a file. */
export function ChooseFile({
  children,
  label,
  isBusy = false,
  accept = 'application/json,.json',
  onChoose,
}: ChooseFileProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button isBusy={isBusy} onClick={() => input.current?.click()}>
        <Upload className="size-4" aria-hidden /> {children}
      </Button>
      <input
        ref={input}
        type="file"
        accept={accept}
        className="hidden"
        aria-label={label}
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          if (file) onChoose(file);
          event.target.value = '';
        }}
      />
    </>
  );
}

/** The JSON of a file, if it is of a format; undefined for anything else. */
export async function readJsonFile(file: File, format: string): Promise<unknown> {
  try {
    const value: unknown = JSON.parse(await file.text());
    const isOfFormat =
      typeof value === 'object' && value !== null && 'format' in value && value.format === format;
    return isOfFormat ? value : undefined;
  } catch {
    return undefined;
  }
}
