import { say } from '../../texts/say';
import { WEIGHT } from '../../texts/weight';
import { cn } from '../../ui/cn';
import { piecesOf, type Piece, type WeighedPage } from './stack';

interface WeightChartProps {
  readonly pages: readonly WeighedPage[];
  readonly budgetKb: number | null;
  readonly colours: ReadonlyMap<string, string>;
}

/** A bar for each page: the page itself, each snippet behind it, and where the budget ends. */
export function WeightChart({ pages, budgetKb, colours }: WeightChartProps) {
  const limitOf = ({ bare }: WeighedPage): number => bare.bytes + (budgetKb ?? 0) * 1_000;
  const most = Math.max(1, ...pages.map((page) => Math.max(page.full.bytes, limitOf(page))));
  const names = new Map(pages.flatMap(({ snippets }) => snippets.map((one) => [one.snippet, one.name])));
  const shown = new Set(pages.flatMap((page) => piecesOf(page).map(({ snippet }) => snippet)));
  return (
    <figure className="space-y-3">
      <ul className="space-y-3">
        {pages.map((page) => (
          <li
            key={`${page.device} ${page.path}`}
            className="grid gap-1 sm:grid-cols-[minmax(0,11rem)_1fr] sm:gap-3"
          >
            <span className="truncate text-sm">
              {say(WEIGHT.page, { path: page.path, device: WEIGHT.devices[page.device] })}
            </span>
            <span className="relative flex h-6 items-stretch">
              {piecesOf(page).map((piece) => (
                <span
                  key={piece.snippet ?? piece.kind}
                  title={`${titleOf(piece)}: ${kilobytes(piece.bytes)}`}
                  className={classOf(piece)}
                  style={{
                    width: `${(100 * piece.bytes) / most}%`,
                    ...(piece.snippet === undefined ? {} : { backgroundColor: colours.get(piece.snippet) }),
                  }}
                />
              ))}
              {budgetKb !== null && (
                <span
                  title={say(WEIGHT.limit, { kb: budgetKb })}
                  className="absolute -inset-y-1 w-0.5 bg-ink"
                  style={{ left: `min(${(100 * limitOf(page)) / most}%, calc(100% - 2px))` }}
                />
              )}
            </span>
          </li>
        ))}
      </ul>
      <figcaption className="flex flex-wrap gap-x-4 gap-y-1 text-[13px] text-muted">
        <Key className="bg-line-strong" label={WEIGHT.itself} />
        {[...names]
          .filter(([key]) => shown.has(key))
          .map(([key, name]) => (
            <Key key={key} colour={colours.get(key)} label={name} />
          ))}
        {pages.some((page) => piecesOf(page).some(({ kind }) => kind === 'together')) && (
          <Key className="bg-muted" label={WEIGHT.together} />
        )}
        {budgetKb !== null && (
          <span className="flex items-center gap-1.5">
            <span className="h-3.5 w-0.5 bg-ink" aria-hidden />
            {say(WEIGHT.limit, { kb: budgetKb })}
          </span>
        )}
      </figcaption>
    </figure>
  );
}

function Key({
  colour,
  className,
  label,
}: {
  colour?: string | undefined;
  className?: string;
  label: string;
}) {
  return (
    <span className="flex items-center gap-1.5">
      <span
        className={cn('size-2.5 rounded-sm', className)}
        style={colour === undefined ? {} : { backgroundColor: colour }}
        aria-hidden
      />
      {label}
    </span>
  );
}

function titleOf({ kind, name }: Piece): string {
  if (kind === 'page') return WEIGHT.itself;
  return kind === 'together' ? WEIGHT.together : name;
}

function classOf({ kind }: Piece): string {
  const shape = 'border-r border-surface first:rounded-l-sm';
  if (kind === 'page') return `${shape} bg-line-strong`;
  return kind === 'together' ? `${shape} bg-muted` : shape;
}

export function kilobytes(bytes: number): string {
  return say(WEIGHT.kilobytes, { kb: (bytes / 1_000).toFixed(1) });
}
