/**
 * The text of a CSV as a parser should get it: without its byte-order mark, its rows ending in one way. A parser takes the
 * first ending for that of all rows, and rows that end otherwise would run into each other. What stands between quotes
 * stays as it is.
 */
export const csvText = (text: string): string =>
	text.replace(/^\uFEFF/, '').replace(/"[^"]*"|\r\n?/g, (found) => (found[0] === '"' ? found : '\n'));
