import type { Caution } from '@firm-needle/core/family';

/** A ruled box with a heavy left edge; text first, nothing by colour alone. */
export function CautionBox({ caution }: { caution: Caution }) {
  return (
    <p className="caution">
      <strong>{caution.title}.</strong> {caution.text}
    </p>
  );
}

export function Cautions({ all, keys }: { all: readonly Caution[]; keys: readonly string[] | undefined }) {
  const shown = all.filter((c) => keys?.includes(c.key));
  if (shown.length === 0) return null;
  return (
    <div className="cautions" role="note" aria-label="Cautions">
      {shown.map((c) => (
        <CautionBox key={c.key} caution={c} />
      ))}
    </div>
  );
}
