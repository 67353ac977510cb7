import { expect, it } from 'vitest';
import { applyEdits } from '../edit';
import { partAt, setSchema, type ShowSet } from './set';
import { inPart, inSong, inZone } from './set-edits';

const set = setSchema.parse({
	setup: { zones: [{ id: 'z', name: 'Z', player: 'p', to: [{ instrument: 'a', channel: 1 }] }] },
	parts: [{ instrument: 'a', channel: 1, volume: 80 }],
	songs: [{ id: 's', name: 'S' }]
});
const after = (now: ShowSet, edits: Parameters<typeof applyEdits>[1]) =>
	setSchema.parse(applyEdits(now, edits));

it('changes an entry from what it is by then, so that quick edits lose nothing of one another', () => {
	const place = (change: object) => (now: ShowSet) =>
		inZone(now, { id: 'z' }, ({ to }) => ({ to: to.map((each) => ({ ...each, ...change })) }));
	const both = [place({ instrument: 'b' }), place({ channel: 2 })].reduce(
		(now, edits) => after(now, edits(now)),
		set
	);
	expect(both.setup.zones[0].to).toEqual([{ instrument: 'b', channel: 2 }]);
	const louder = after(
		set,
		inPart(set, 'a', 1, ({ volume }) => ({ volume: volume! + 5 }))
	);
	expect(partAt(louder, 'a', 1).volume).toBe(85);
	const fresh = after(set, inPart(set, 'a', 9, { volume: 7 }));
	expect(fresh.parts).toHaveLength(2);
});

it('makes no edit of what is not there any more', () => {
	expect(inZone(set, { id: 'gone' }, { on: false })).toEqual([]);
	expect(inSong(set, { id: 'gone' }, () => ({ name: 'X' }))).toEqual([]);
});
