import { addDays, addMonths, format, parseISO, startOfWeek } from 'date-fns';

/** ISO day of a date, as the wall calendar has it. */
export const dayOf = (date: Date): string => format(date, 'yyyy-MM-dd');
export const today = (): string => dayOf(new Date());
/** How far ahead the list looks, and what of a site goes with a visit. */
export const horizon = (): string => dayOf(addMonths(new Date(), 6));
export const mondayOf = (day: string): string => dayOf(startOfWeek(parseISO(day), { weekStartsOn: 1 }));
export const plusDays = (day: string, n: number): string => dayOf(addDays(parseISO(day), n));
export const said = (day: string, how = 'd MMM'): string => format(parseISO(day), how);

/** `1 h 40`, `45 min`. */
export const duration = (minutes: number): string =>
  minutes < 60
    ? `${minutes} min`
    : `${Math.floor(minutes / 60)} h${minutes % 60 ? ` ${String(minutes % 60).padStart(2, '0')}` : ''}`;
