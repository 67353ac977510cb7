/** A channel of an instrument as a text, to look it up by. */
export const sceneKey = (instrument: string, channel: number): string =>
	JSON.stringify([instrument, channel]);

/** The instruments of messages or notes, each once, in the order in which they come. */
export const instrumentsOf = (list: readonly { instrument: string }[]): string[] => [
	...new Set(list.map(({ instrument }) => instrument))
];
