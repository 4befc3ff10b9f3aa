import { ApiError } from '@pragmatica/contract';
import { Link } from 'react-router';
import { HELP } from '../texts/help';

const PREFIX = 'urn:pragmatica:problem:';

/** Where it stands what a refusal of the service means; nothing for what the service has not said. */
export function ProblemHelp({ error }: { readonly error: Error }) {
  if (!(error instanceof ApiError) || !error.problem.type.startsWith(PREFIX)) return null;
  return (
    <Link
      to={`/help/errors#${error.problem.type.slice(PREFIX.length)}-${error.status}`}
      target="_blank"
      className="text-sm whitespace-nowrap underline"
    >
      {HELP.whatItMeans}
    </Link>
  );
}
