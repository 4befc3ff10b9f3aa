import { MIN_PASSWORD_LENGTH } from '@pragmatica/contract';
import { SIGN_IN } from '../../texts/sign-in';
import { say } from '../../texts/say';
import { Field } from '../../ui/field';

export interface NewPassword {
  readonly chosen: string;
  readonly again: string;
}

export const NO_PASSWORD: NewPassword = { chosen: '', again: '' };

/** Whether it is long enough and was typed the same twice. */
export function isChosen({ chosen, again }: NewPassword): boolean {
  return chosen.length >= MIN_PASSWORD_LENGTH && chosen === again;
}

interface NewPasswordFieldsProps {
  readonly value: NewPassword;
  readonly onChange: (value: NewPassword) => void;
  /** Why the service refuses it. */
  readonly error?: string | undefined;
}

/** A new password, typed twice. */
export function NewPasswordFields({ value, onChange, error }: NewPasswordFieldsProps) {
  const { chosen, again } = value;
  return (
    <>
      <Field
        label={SIGN_IN.newPassword}
        type="password"
        autoComplete="new-password"
        required
        minLength={MIN_PASSWORD_LENGTH}
        hint={say(SIGN_IN.minlengthCharactersMore, { minLength: MIN_PASSWORD_LENGTH })}
        value={chosen}
        onChange={(event) => onChange({ ...value, chosen: event.target.value })}
        error={error}
      />
      <Field
        label={SIGN_IN.sameAgain}
        type="password"
        autoComplete="new-password"
        required
        value={again}
        onChange={(event) => onChange({ ...value, again: event.target.value })}
        error={again !== '' && again !== chosen ? SIGN_IN.twoDiffer : undefined}
      />
    </>
  );
}
