import { expect, it } from 'vitest';
import { changeWarnings, unsentInWords, wiresInWords } from './change-words';
import { nothingHeld } from './held';
import { sceneChange } from './scene-change';
import { allOff } from './scenes';
import { deskOf, setSchema, soundSchema } from './set';

const set = setSchema.parse({
	setup: {
		players: [{ id: 'p', name: 'Upper' }],
		instruments: [
			{ id: 'here', name: 'Here', loadMs: 1 },
			{ id: 'away', name: 'Away', away: true },
			{ id: 'shaky', name: 'Shaky', dropsOut: true },
			{ id: 'far', name: 'Far' }
		],
		zones: [
			{
				id: 'z',
				name: 'Z',
				player: 'p',
				to: ['here', 'away', 'shaky', 'far'].map((instrument) => ({ instrument, channel: 1 }))
			}
		]
	},
	parts: ['here', 'away', 'shaky', 'far'].map((instrument) => ({ instrument, channel: 1, volume: 90 }))
});
const line = (id: string) => (id === 'far' ? null : id);

it('names every instrument that gets nothing, and why, also of what is silenced', () => {
	const change = sceneChange(set, nothingHeld, deskOf(set), { line });
	expect(unsentInWords(set, change)).toEqual([
		'Away is noted as away: 1 message for it is not sent.',
		'Far is reached by no line: 1 message for it is not sent.',
		'Shaky drops out while it is spoken to: 1 message is kept back.'
	]);
	const off = sceneChange(set, nothingHeld, allOff(set, 0), { line });
	expect(off.messages.map(({ instrument, bytes }) => [instrument, ...bytes])).toEqual([
		['here', 0xb0, 64, 0],
		['here', 0xb0, 123, 0]
	]);
	expect(off.silenced).toEqual([{ instrument: 'here', channel: 1 }]);
	expect(unsentInWords(set, off)).toEqual([
		'Away is noted as away: 2 messages for it are not sent.',
		'Far is reached by no line: 2 messages for it are not sent.',
		'Shaky drops out while it is spoken to: 2 messages are kept back.'
	]);
	expect(changeWarnings(set, off).map(({ says }) => says)).toEqual([
		...unsentInWords(set, off),
		'Here, channel 1: held notes are ended.'
	]);
});

it('says how long each wire is busy, and until when the last instrument is ready, as far as that is known', () => {
	const said = (loadMs: number | null, parts = set.parts) => {
		const instruments = set.setup.instruments.map((each) => ({ ...each, away: false, loadMs }));
		const desk = { ...set, setup: { ...set.setup, instruments }, parts };
		return wiresInWords(sceneChange(desk, nothingHeld, deskOf(desk), { line }));
	};
	// A volume is three bytes of 0.32 ms.
	expect(said(20)).toBe('On the wire: here 1 ms, away 1 ms. The last instrument is ready after 1 ms.');
	const sound = soundSchema.parse({ name: 'Glass', program: 3 });
	const parts = [{ instrument: 'here', channel: 1, sound, volume: null }];
	expect(said(20, parts)).toBe('On the wire: here 1 ms. The last instrument is ready after 21 ms.');
	expect(said(null, parts)).toBe(
		'On the wire: here 1 ms. The last instrument is ready after 1 ms, and what nobody measured after it.'
	);
	expect(said(20, [])).toBe('');
});
