import useMediaQuery from '@mui/material/useMediaQuery';

/** Three places side by side, or three tabs. */
export const useWide = (): boolean => useMediaQuery('(min-width: 1000px)', { noSsr: true });
