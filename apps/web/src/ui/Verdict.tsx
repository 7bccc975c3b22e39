import type { VerdictWord } from '@firm-needle/core/verdict';

const TONE: Readonly<Record<VerdictWord, string>> = {
  in: 'var(--in)',
  near: 'var(--near)',
  out: 'var(--out)',
};

/** A verdict by shape first: a filled bar between two ticks, a half-filled bar on a tick, an open bar beyond one. */
export function VerdictMark({ word, size = 22 }: { word: VerdictWord; size?: number }) {
  const c = TONE[word];
  return (
    <svg
      className="verdict-mark"
      width={size}
      height={size * 0.6}
      viewBox="0 0 22 13"
      role="img"
      aria-label={word}
    >
      <g stroke={c} strokeWidth="2" fill="none">
        {word === 'in' && (
          <>
            <path d="M2 1v11M20 1v11" />
            <rect x="5" y="4" width="12" height="5" fill={c} stroke="none" />
          </>
        )}
        {word === 'near' && (
          <>
            <path d="M11 0v13" />
            <rect x="4" y="4" width="14" height="5" />
            <rect x="4" y="4" width="7" height="5" fill={c} stroke="none" />
          </>
        )}
        {word === 'out' && (
          <>
            <path d="M3 1v11" />
            <rect x="8" y="4" width="12" height="5" />
          </>
        )}
      </g>
    </svg>
  );
}

export function VerdictWordMark({ word }: { word: VerdictWord }) {
  return (
    <span className="verdict" style={{ color: TONE[word] }}>
      <VerdictMark word={word} /> {word}
    </span>
  );
}
