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
