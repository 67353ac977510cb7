import { describe, expect, it } from 'vitest';
import { assigned, LISTS } from './map.fixture';
import { pageSchema } from './map';
import { retarget } from './retarget';
import { targetListSchema } from '../profile';
import { targetsOfNameDocument } from './targets-midnam';

const umbra = targetListSchema.parse(LISTS[0]);
const other = targetListSchema.parse({
	...LISTS[0],
	id: 'nadir',
	name: 'Nadir',
	targets: [
		{ id: 'f', name: 'Filter', address: { kind: 'cc', number: 22 }, unit: 'Hz', function: 'cutoff' },
		{ id: 'r', name: 'RESONANCE', address: { kind: 'cc', number: 23 }, unit: '%' },
		{ id: 'v', name: 'Loudness', address: { kind: 'cc', number: 7 }, unit: 'dB' }
	]
});
const page = pageSchema.parse({
	number: 1,
	name: 'Sky',
	assignments: [
		assigned('fader-1', 'cutoff', { name: 'Cut', colour: 'amber' }, { from: 100, to: 900, inverted: true }),
		assigned('fader-2', 'resonance', {}, { curve: 'slow-start', reach: 'song' }),
		assigned('fader-3', 'volume'),
		assigned('fader-4', 'sparkle', { name: 'Spark' })
	]
});

describe('leading a page to another device', () => {
	it('finds the same by function, name or address, keeps all else, and says what is lacking', () => {
		const { page: next, lacks, kept } = retarget(page, umbra, other, 5);
		expect(kept.map(({ from, to, by }) => `${from} ${to} ${by}`)).toEqual([
			'cutoff f function',
			'resonance r name',
			'volume v address'
		]);
		expect(lacks).toEqual(['Nadir has no Sparkle.']);
		expect(next.assignments[0]).toEqual({
			...page.assignments[0],
			links: [{ ...page.assignments[0].links[0], list: 'nadir', target: 'f', channel: 5 }]
		});
		expect(next.assignments[3]).toEqual({ ...page.assignments[3], links: [] });
	});

	it('leads windows along, on their own channels, without what is lacking', () => {
		const over = (...targets: string[]) =>
			targets.map((target, i) => ({ list: 'umbra', target, channel: i + 1 }));
		const window = {
			...{ name: 'W', controls: ['fader-1', 'fader-2'], gesture: 'move', step: 2 },
			next: { control: 'key-1', gesture: 'push' }
		};
		const windowed = pageSchema.parse({
			...page,
			windows: [
				{ ...window, over: over('cutoff', 'sparkle', 'volume') },
				{ ...window, over: over('sparkle') }
			]
		});
		const { windows } = retarget(windowed, umbra, other, 5).page;
		expect(windows).toHaveLength(1);
		expect(windows[0]).toEqual({
			...windowed.windows[0],
			over: [
				{ list: 'nadir', target: 'f', channel: 1 },
				{ list: 'nadir', target: 'v', channel: 3 }
			]
		});
	});

	it('does not carry a range into another unit', () => {
		const percent = { ...other, targets: [{ ...other.targets[0], unit: '%' }] };
		const { page: next, lacks } = retarget(page, umbra, percent);
		expect(next.assignments[0].links[0]).not.toHaveProperty('from');
		expect(next.assignments[0].links[0].inverted).toBe(true);
		expect(lacks[0]).toBe('Filter of Nadir is in %: its range is all that it has.');
	});

	it('changes nothing where it is led to itself, nor any other list', () => {
		expect(retarget(page, umbra, umbra).page).toEqual(page);
		expect(retarget(page, { ...other, id: 'nobody' }, umbra).page).toEqual(page);
	});
});

describe('controls of a MIDI name document', () => {
	const controls = (inner: string) => `<?xml version="1.0"?>
		<MIDINameDocument><MasterDeviceNames>
			<ChannelNameSet Name="Parts"><AvailableForChannels>
				<AvailableChannel Channel="1" Available="true"/><AvailableChannel Channel="2" Available="false"/>
				<AvailableChannel Channel="3" Available="true"/></AvailableForChannels>
				<UsesControlNameList Name="Knobs"/></ChannelNameSet>
			<ControlNameList Name="Knobs">${inner}</ControlNameList>
		</MasterDeviceNames></MIDINameDocument>`;

	it('become targets, with their channels, ranges and names', () => {
		const { lists, left } = targetsOfNameDocument(
			controls(`<Control Type="7bit" Number="74" Name="Cutoff &amp; more"><Values Min="0" Max="100" Default="64" Units="Hz"/></Control>
				<Control Number="1" Name="Mod"/><Control Type="14bit" Number="7" Name="Level"/>
				<Control Type="NRPN" Number="300" Name="Morph"/><Control Type="RPN" Number="0" Name="Bend range"><Values Min="0" Max="24"/></Control>`)
		);
		expect(left).toEqual([]);
		expect(lists).toHaveLength(1);
		expect(lists[0]).toMatchObject({ name: 'Knobs', channels: [1, 3] });
		expect(lists[0].targets.map(({ name, address, low, high }) => [name, address, low, high])).toEqual([
			['Cutoff & more', { kind: 'cc', number: 74 }, 0, 100],
			['Mod', { kind: 'cc', number: 1 }, 0, 127],
			['Level', { kind: 'cc-14', number: 7 }, 0, 16383],
			['Morph', { kind: 'nrpn', number: 300 }, 0, 16383],
			['Bend range', { kind: 'rpn', number: 0 }, 0, 24]
		]);
		expect(lists[0].targets[0]).toMatchObject({ unit: 'Hz', default: 64 });
	});

	it('that make no sense are left out by name', () => {
		const { left, lists } = targetsOfNameDocument(
			controls(
				`<Control Type="7bit" Number="128" Name="Far"/><Control Type="9bit" Number="1" Name="Odd"/>
				<Control Number="1" Name="Turned"><Values Min="9" Max="3"/></Control><Control Number="2" Name="Two"/><Control Number="2" Name="Again"/>`
			)
		);
		expect(lists[0].targets.map(({ name }) => name)).toEqual(['Two']);
		expect(left).toEqual([
			'Far (7bit 128): its number is out of range',
			'Odd (9bit 1): its type is not known',
			'Turned (7bit 1): its values are out of range',
			'Again (7bit 2): it is there twice'
		]);
	});

	it.each([
		['<MIDINameDocument><PatchBank Name="A"/></MIDINameDocument>', 'targets.no-controls'],
		['hello', 'targets.not-xml'],
		['<a><b></a>', 'targets.not-xml']
	])('refuse %s', (text, code) => {
		expect(() => targetsOfNameDocument(text)).toThrow(expect.objectContaining({ code }));
	});
});
