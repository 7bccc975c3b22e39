/** A made-up pressure of five switch cycles with noise, the same on every machine: times in s, pressures in Pa. */
export function signal() {
  const [t, p] = [[], []];
  let state = 20;
  const uniform = () => (state = (state * 48271) % 2147483647) / 2147483647;
  for (let i = 0; i < 5850; i++) {
    const x = (i / 10) % 110;
    const rise = x < 40 ? x / 40 : 1 - (x - 40) / 70;
    const noise = (uniform() + uniform() + uniform() - 1.5) * 600;
    t.push(i / 10);
    p.push(280000 + 138000 * rise + noise);
  }
  return { t, p };
}
/** Samples on each side of a peak that lines are fitted to. */
export const REACH = 60;

/** A made-up first stage purged every half minute, creeping between: times in s, pressures in Pa, and where each rest begins and ends. */
export function purges() {
  const [t, p, rests] = [[], [], []];
  let state = 77;
  const uniform = () => (state = (state * 48271) % 2147483647) / 2147483647;
  for (let i = 0; i < 2900; i++) {
    const x = (i / 10) % 29;
    const k = Math.floor(i / 290);
    // Held for two seconds, back in half of one; then it creeps, each rest at a pace of its own.
    const creep = (38 + 7 * ((k * 5) % 4)) * Math.max(0, x - 2.5);
    const dip = x < 2 ? 96000 : x < 2.5 ? 96000 * (2.5 - x) * 2 : 0;
    const noise = (uniform() + uniform() + uniform() - 1.5) * 500;
    t.push(i / 10);
    p.push(912000 + creep - dip + noise);
    if (i % 290 === 120) rests.push([i, i + 165]);
  }
  return { t, p, rests };
}
