/** A channel of an instrument as a text, to look it up by. */
export const sceneKey = (instrument: string, channel: number): string =>
	JSON.stringify([instrument, channel]);
