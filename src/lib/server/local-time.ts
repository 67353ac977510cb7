import { format, startOfISOWeek } from 'date-fns';

/** Days, weeks and months as the musician counts them: in the time zone of the computer that keeps the studio. */
export const localDay = (at: string | number): string => format(new Date(at), 'yyyy-MM-dd');
/** The Monday on which a week begins. */
export const localWeek = (ms: number): string => format(startOfISOWeek(new Date(ms)), 'yyyy-MM-dd');
export const localMonth = (ms: number): string => format(new Date(ms), 'yyyy-MM');
