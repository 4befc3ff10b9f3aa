/** The sign of the product: a page with two strips of something put into it. */
export function Mark({ className }: { className?: string }) {
  return (
    <svg viewBox="0 0 32 32" className={className} aria-hidden>
      <rect width="32" height="32" rx="7" fill="#20423a" />
      <path d="M9 6h14v20H9z" fill="#f4efe4" />
      <path d="M9 11h14v3H9zM9 20h8v3H9z" fill="#e2793a" />
    </svg>
  );
}
