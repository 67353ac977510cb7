/** Prints a figure, with what stands beside it. */
export type Row = (what: string, figure: string, beside?: string) => void;

/** A number as figures show it. */
export const n = (value: number, digits = 1): string =>
	value.toLocaleString('en', { maximumFractionDigits: digits, minimumFractionDigits: digits });
