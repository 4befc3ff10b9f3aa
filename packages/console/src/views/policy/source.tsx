/** A source or a directive, as it is written into a header. */
export function Source({ children }: { children: string }) {
  return <code className="font-mono text-xs [overflow-wrap:anywhere]">{children}</code>;
}
