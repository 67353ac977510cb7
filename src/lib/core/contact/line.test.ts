import { describe, expect, it } from 'vitest';
import { lineTo, lineWords, type LineFacts } from '.';

const memory = (key: string, direction: 'in' | 'out', name: string) => ({
	key,
	direction,
	id: name,
	name,
	manufacturer: ''
});
const shown = (key: string, direction: 'in' | 'out', name: string | null) => ({
	key,
	direction,
	port: name === null ? null : { id: name, name, manufacturer: '', direction }
});
const contact = (more: object = {}) => ({
	world: 'hardware' as const,
	at: '2026-11-20T20:00:00.000Z',
	how: 'identity' as const,
	out: 'ferry:out-3',
	in: 'ferry:in-5',
	outName: 'Ferry 8 Out 3',
	inName: 'Ferry 8 In 5',
	deviceId: 16,
	firmware: '1.04',
	...more
});
const facts = (more: Partial<LineFacts> = {}): LineFacts => ({
	device: { id: 'orrery', name: 'Orrery' },
	world: 'hardware',
	way: {
		device: 'orrery',
		out: { port: 'ferry:out-3', name: 'Ferry 8 Out 3' },
		in: { port: 'ferry:in-5', name: 'Ferry 8 In 5' }
	},
	unit: null,
	panelId: 17,
	readable: true,
	answers: true,
	contact: contact(),
	remembered: [memory('ferry:out-3', 'out', 'Ferry 8 Port 3'), memory('ferry:in-5', 'in', 'Ferry 8 Port 5')],
	ports: [shown('ferry:out-3', 'out', 'Ferry 8 Port 3'), shown('ferry:in-5', 'in', 'Ferry 8 Port 5')],
	...more
});

describe('the line to a device', () => {
	it('names every socket with the computer’s own port, and lacks nothing where it answered there', () => {
		const line = lineTo(facts());
		expect(lineWords(line)).toBe(
			'This computer → Ferry 8 Out 3 (Ferry 8 Port 3) → Orrery (ID 17) → Ferry 8 In 5 (Ferry 8 Port 5)'
		);
		expect(line).toMatchObject({ open: true, gap: null });
	});

	it.each([
		['no way', { way: null, contact: null }, 'no-way', false],
		['no return', { way: { ...facts().way!, in: null }, contact: null }, 'no-return', false],
		['a socket that no port is known for', { remembered: [], contact: null }, 'port-unknown', false],
		['a tab without the ports', { ports: null }, 'ports-closed', false],
		[
			'a port that is away',
			{ ports: [shown('ferry:out-3', 'out', null), shown('ferry:in-5', 'in', 'Ferry 8 Port 5')] },
			'port-away',
			false
		],
		['an answer from elsewhere', { contact: contact({ out: 'ferry:out-2' }) }, 'answers-elsewhere', true],
		[
			'an answer that came in elsewhere',
			{ contact: contact({ in: 'ferry:in-2' }) },
			'answers-elsewhere',
			true
		],
		['an answer, and no cable noted', { way: null }, 'answers-elsewhere', false],
		['no answer yet', { contact: null }, 'never-answered', true]
	] as const)('says what is missing: %s', (_, more, code, open) => {
		const line = lineTo(facts(more as Partial<LineFacts>));
		expect(line.gap?.code).toBe(code);
		expect(line.open).toBe(open);
	});

	it('needs no way back for what only receives, and no answer of what never answers', () => {
		const line = lineTo(
			facts({ readable: false, answers: false, contact: null, way: { ...facts().way!, in: null } })
		);
		expect(line).toMatchObject({ open: true, gap: null });
		expect(line.stops.map(({ name }) => name)).toEqual(['This computer', 'Ferry 8 Out 3', 'Orrery']);
	});

	it('speaks of the bench and of nothing else there', () => {
		const unit = { id: 'u1', name: 'Orrery on the bench' };
		const line = lineTo(
			facts({ world: 'bench', unit, contact: contact({ world: 'bench', out: null, in: null }) })
		);
		expect(lineWords(line)).toBe('This computer → Orrery on the bench (bench) → Orrery (ID 17)');
		expect(line).toMatchObject({ open: true, gap: null });
		expect(lineTo(facts({ world: 'bench' })).gap).toMatchObject({ code: 'no-unit', action: 'plug' });
		expect(lineTo(facts({ world: 'bench', unit, contact: null })).gap?.code).toBe('never-answered');
	});
});
