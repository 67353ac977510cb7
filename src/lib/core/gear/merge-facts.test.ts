import { expect, it } from 'vitest';
import { deviceSchema, mergeFacts } from '.';

const was = deviceSchema.parse({ name: 'Keys', place: 'rack', channel: 3, notes: '' });

it('keeps what each changed alone, and names what both changed to something else', () => {
	expect(mergeFacts(was, { ...was, place: 'desk' }, { ...was, notes: 'new battery' })).toEqual({
		facts: { ...was, place: 'desk', notes: 'new battery' },
		conflicts: []
	});
	expect(mergeFacts(was, { ...was, place: 'desk' }, { ...was, place: 'desk', channel: 4 })).toEqual({
		facts: { ...was, place: 'desk', channel: 4 },
		conflicts: []
	});
	expect(mergeFacts(was, { ...was, place: 'desk', channel: 5 }, { ...was, place: 'attic' })).toEqual({
		facts: { ...was, place: 'attic', channel: 5 },
		conflicts: [{ field: 'place', mine: 'desk', theirs: 'attic' }]
	});
	// Taking back what was there is a change, too.
	expect(mergeFacts(was, was, { ...was, channel: null }).facts.channel).toBeNull();
});
