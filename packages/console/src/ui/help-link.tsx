import { CircleHelp } from 'lucide-react';
import { Link } from 'react-router';
import { HELP } from '../texts/help';
import { say } from '../texts/say';

interface HelpLinkProps {
  /** A document and a heading in it: `reach#consent`. */
  readonly to: string;
  /** What it is about, for those who cannot see what it stands beside. */
  readonly subject: string;
}

/** The sign beside a subject that leads to its page under Help. It opens beside what somebody is doing. */
export function HelpLink({ to, subject }: HelpLinkProps) {
  return (
    <Link
      to={`/help/${to}`}
      target="_blank"
      aria-label={say(HELP.moreAbout, { subject })}
      title={say(HELP.moreAbout, { subject })}
      className="inline-flex rounded-full align-middle text-muted hover:text-primary"
    >
      <CircleHelp className="size-4" aria-hidden />
    </Link>
  );
}
