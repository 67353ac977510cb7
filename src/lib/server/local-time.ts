import { format, startOfISOWeek } from 'date-fns';

/** Days, weeks and months as the musician counts them: in the time zone of the computer that keeps the studio. */
export const localDay = (at: string | number): string => format(new Date(at), 'yyyy-MM-dd');
/** Names of weeks, which begin on Monday, and of months: made to be compared, a hundred thousand at a time. */
export const localWeek = (ms: number): string => `week of ${startOfISOWeek(new Date(ms)).toDateString()}`;
export const localMonth = (ms: number): string => {
	const day = new Date(ms);
	return `${day.getFullYear()}-${day.getMonth() + 1}`;
};
