/** A channel of an instrument as a text, to look it up by. */
export const sceneKey = (instrument: string, channel: number): string =>
	JSON.stringify([instrument, channel]);
/** The instrument of such a text. */
export const instrumentAt = (key: string): string => (JSON.parse(key) as [string, number])[0];

/** The instruments of messages or notes, each once, in the order in which they come. */
export const instrumentsOf = (list: readonly { instrument: string }[]): string[] => [
	...new Set(list.map(({ instrument }) => instrument))
];
