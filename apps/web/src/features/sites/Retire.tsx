import type { Problem } from '@firm-needle/contract';
import Button from '@mui/material/Button';
import { useState } from 'react';

/** Takes something out of the book, or back into it; asked twice, since it leaves every list. */
export function Retire({
  of,
  what,
  onRetire,
  done,
}: {
  of: { readonly retired: boolean };
  what: string;
  onRetire: (retired: boolean) => Promise<Problem | undefined>;
  done: () => void;
}) {
  const [sure, setSure] = useState(false);
  const [wrong, setWrong] = useState<Problem>();
  const act = async (): Promise<void> => {
    if (!of.retired && !sure) return setSure(true);
    const problem = await onRetire(!of.retired);
    setWrong(problem);
    if (!problem) done();
  };
  return (
    <>
      <Button onClick={() => void act()}>
        {of.retired ? 'Take it back' : sure ? `Retire ${what}: its records stay` : `Retire ${what}`}
      </Button>
      {wrong && (
        <span role="alert" className="retire-wrong">
          {wrong.detail} {wrong.remedy}
        </span>
      )}
    </>
  );
}
