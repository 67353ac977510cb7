import { describe, expect, it } from 'vitest';
import { matching, type CommandEntry } from './commands';

const entry = (title: string, says = ''): CommandEntry => ({
	id: title,
	group: 'Drawers',
	title,
	says,
	run: () => undefined
});
const entries = [
	entry('Back up Umbra hall'),
	entry('Wiring', 'Ports, cables and channels'),
	entry('Umbra hall', 'Verified 3 days ago'),
	entry('Umbra'),
	entry('Élan', 'synthesiser')
];
const found = (query: string) => matching(entries, query).map(({ title }) => title);

describe('what the command field finds', () => {
	it('is everything in its order where nothing is typed', () => {
		expect(found(' ')).toEqual(entries.map(({ title }) => title));
	});
	it('takes the name itself before what begins with it, and that before what holds it', () => {
		expect(found('umbra')).toEqual(['Umbra', 'Umbra hall', 'Back up Umbra hall']);
		expect(found('umbra hall')).toEqual(['Umbra hall', 'Back up Umbra hall']);
	});
	it('looks at what else an entry is known by, last', () => {
		expect(found('cables')).toEqual(['Wiring']);
		expect(found('hall up')).toEqual(['Back up Umbra hall']);
	});
	it('minds neither accents nor capitals, and finds nothing that is not there', () => {
		expect(found('ELAN')).toEqual(['Élan']);
		expect(found('nobody')).toEqual([]);
	});
});
