import { expect, it } from 'vitest';
import { readBack } from './read-back';
import { deskSchema, setSchema } from './set';

const none = setSchema.parse({});
const desk = (channels: number[], sound: object | null = { name: 'Glass', program: 4 }) =>
	deskSchema.parse({
		zones: channels.map((channel) => ({
			id: `z${channel}`,
			name: 'Zone',
			player: 'keys',
			to: [{ instrument: 'choir', channel }]
		})),
		parts: channels.map((channel) => ({ instrument: 'choir', channel, sound }))
	});
const plays = (program: number) => ({ msb: null, lsb: null, program });

it('calls nothing shown that the instrument did not say itself', () => {
	expect(readBack(none, desk([1]), 'choir', plays(4))).toMatchObject({
		state: 'shown',
		said: { channel: 1 }
	});
	expect(readBack(none, desk([1]), 'choir', plays(5))).toMatchObject({
		state: 'other',
		says: 'it says that it plays program 5, not 4, Glass.'
	});
	for (const answer of [null, 'nothing', 'unstored'] as const)
		expect(readBack(none, desk([1]), 'choir', answer)).toMatchObject({ state: 'sent', said: null });
	// One answer is of one part: of two, nobody knows which.
	expect(readBack(none, desk([1, 2]), 'choir', plays(4))).toMatchObject({ state: 'sent', said: null });
	expect(readBack(none, desk([1], null), 'choir', plays(4))).toMatchObject({
		state: 'sent',
		said: { channel: 1 }
	});
	expect(readBack(none, desk([1]), 'other', plays(4))).toMatchObject({ state: 'sent', said: null });
});
