/** The mark: a ladder with its needle. */
export function Brand({ size = 28 }: { size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 64 64" aria-hidden="true">
      <g fill="none" stroke="currentColor" strokeWidth="6" strokeLinecap="square">
        <path d="M20 8v48M20 12h12M20 52h12M20 32h8" />
      </g>
      <path d="M34 32 60 19v26z" fill="var(--needle)" />
    </svg>
  );
}
