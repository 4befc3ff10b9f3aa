import { cn } from './cn';
import { inputStyle } from './field';

interface SearchFieldProps {
  label: string;
  placeholder: string;
  value: string;
  onChange: (value: string) => void;
  className?: string;
}

/** What narrows a long list down. */
export function SearchField({ label, placeholder, value, onChange, className }: SearchFieldProps) {
  return (
    <input
      type="search"
      aria-label={label}
      placeholder={placeholder}
      className={cn(inputStyle, 'max-w-md', className)}
      value={value}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}
