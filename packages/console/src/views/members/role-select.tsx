import { ROLES, type Role } from '@pragmatica/core';
import { MEMBERS } from '../../texts/members';
import { cn } from '../../ui/cn';
import { inputStyle } from '../../ui/field';

interface RoleSelectProps {
  readonly label: string;
  readonly value: Role | null;
  readonly onChange: (role: Role | null) => void;
  /** Whether one may have none. */
  readonly hasNone?: boolean;
  readonly isDisabled?: boolean;
}

/** A choice of roles. */
export function RoleSelect({ label, value, onChange, hasNone = false, isDisabled }: RoleSelectProps) {
  return (
    <select
      aria-label={label}
      className={cn(inputStyle, 'h-8 w-auto px-2 py-0.5 text-[13px]')}
      value={value ?? ''}
      disabled={isDisabled}
      onChange={(event) => onChange(event.target.value === '' ? null : (event.target.value as Role))}
    >
      {hasNone && <option value="">{MEMBERS.noRole}</option>}
      {ROLES.map((role) => (
        <option key={role} value={role}>
          {MEMBERS.roles[role]}
        </option>
      ))}
    </select>
  );
}
