import { useMutation, useQueryClient } from '@tanstack/react-query';

/**
 * A change after which what is shown of a subject is asked for again.
 *
 * @param subject - with which the keys of its queries begin
 * @param onDone - runs before that, even if what started the change leaves the screen with it
 */
export function useChangeOf<Input, Result>(
  subject: string,
  change: (input: Input) => Promise<Result>,
  onDone?: (result: Result, input: Input) => void,
) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: (result, input) => {
      onDone?.(result, input);
      return client.invalidateQueries({ queryKey: [subject] });
    },
  });
}
