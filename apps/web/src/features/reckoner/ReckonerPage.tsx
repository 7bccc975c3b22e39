import { Reckoner } from '../../reckoner/Reckoner.tsx';

/** The sums of the trade on a page of their own. */
export function ReckonerPage() {
  return (
    <>
      <div className="page-head">
        <h1>Reckoner</h1>
        <span className="soft">Type a value with its unit; the answer follows. Works without a signal.</span>
      </div>
      <Reckoner />
    </>
  );
}
