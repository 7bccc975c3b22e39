import { useEffect } from 'react';
import { useLocation, useNavigationType } from 'react-router';

/** Longest that a page may take to appear, ms. */
const LONGEST_MS = 5000;

/** After another page was opened it is read from its top, and the focus stands at its heading, and not nowhere: keys and screen readers go on from there. */
export function useFocusHere(): void {
  const { pathname } = useLocation();
  const way = useNavigationType();
  useEffect(() => {
    // Where one comes back to, one was somewhere: the browser knows where.
    if (way !== 'POP') scrollTo(0, 0);
  }, [pathname, way]);
  useEffect(() => {
    const stand = (): boolean => {
      const at = document.activeElement;
      if (at !== null && at !== document.body && at.isConnected) return true;
      const heading = document.querySelector<HTMLElement>('main h1, h1, main');
      if (!heading) return false;
      heading.tabIndex = -1;
      heading.focus({ preventScroll: true });
      return true;
    };
    if (stand()) return;
    const watch = new MutationObserver(() => stand() && watch.disconnect());
    watch.observe(document.body, { childList: true, subtree: true });
    const timer = setTimeout(() => watch.disconnect(), LONGEST_MS);
    return () => {
      watch.disconnect();
      clearTimeout(timer);
    };
  }, [pathname]);
}
