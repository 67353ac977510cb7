import { describe, expect, it } from 'vitest';
import { applyChanges } from './change';
import { firstFeeds } from './feeds';
import { pathCables, silentCables } from './light';
import { moveTo } from './move';
import { cable, host, module, port, studio } from './rig.fixture';
import { cableList, channelChart, frontView, settingsList } from './sheets';

const rig = studio([module('a'), module('b'), module('c', { ports: [port('c.in', 'in')] })], {
	cables: [
		cable('ferry.out1', 'a.in', { length: 3 }),
		cable('ferry.out2', 'c.in'),
		cable('a.out', 'ferry.in1')
	],
	settings: [
		{ device: 'a', channel: 1 },
		{ device: 'b', channel: 2 },
		{ device: 'c', channel: 1 }
	],
	host: host({ tracks: [{ id: 't', name: 'A', output: 'ho1' }] })
});
const heard = (after: typeof rig, out: string) =>
	firstFeeds(after)
		.find((feed) => feed.out.port.id === out)
		?.hearers.map(({ device, hop }) => [device.id, hop]) ?? [];

describe('moving a device', () => {
	it('plugs it right into a free out, or behind the last thru socket', () => {
		expect(heard(applyChanges(rig, moveTo(rig, 'b', 'ferry.out3', 5)), 'ferry.out3')).toEqual([['b', 1]]);
		const after = applyChanges(rig, moveTo(rig, 'b', 'ferry.out1', null));
		expect(heard(after, 'ferry.out1')).toEqual([
			['a', 1],
			['b', 2]
		]);
		expect(
			applyChanges(after, moveTo(after, 'c', 'ferry.out1', 3)).settings.find(({ device }) => device === 'c')!
				.channel
		).toBe(3);
	});

	it('changes nothing but the channel where it stays', () => {
		expect(moveTo(rig, 'a', 'ferry.out1', 4)).toEqual([{ do: 'set', device: 'a', channel: 4 }]);
		expect(moveTo(rig, 'a', 'ferry.out1', 1)).toEqual([]);
	});

	it('says why it cannot', () => {
		expect(() => moveTo(rig, 'a', 'ferry.out2', null)).toThrow('no free thru socket behind c');
		const wide = studio([module('a', { receive: { parts: 4 } })], { cables: [cable('ferry.out1', 'a.in')] });
		expect(() => moveTo(wide, 'a', 'ferry.out1', 14)).toThrow('beyond channel 16');
		const usb = studio([module('u', { ports: [port('u.usb', 'both', 'usb-device')] })]);
		expect(() => moveTo(usb, 'u', 'ferry.out1', 1)).toThrow('no MIDI in');
	});
});

it('tells which cables carry nothing, and which are on a device’s way', () => {
	expect([...silentCables(rig)]).toEqual(['ferry.out2 c.in']);
	expect([...pathCables(rig, 'a')].sort()).toEqual(['a.out ferry.in1', 'ferry.out1 a.in']);
});

describe('sheets', () => {
	it('label every cable and say who is on which channel', () => {
		expect(cableList(rig)[1]).toEqual([
			'M01',
			'a out',
			'',
			'ferry in1',
			'',
			'5-pin DIN',
			'5-pin DIN',
			'',
			''
		]);
		expect(cableList(rig)[2].slice(0, 4).concat(cableList(rig)[2].at(-1)!)).toEqual([
			'M02',
			'ferry out1',
			'',
			'ferry in1'.replace('ferry in1', 'a in'),
			'3 m'
		]);
		expect(channelChart(rig)[1].slice(0, 3)).toEqual(['ferry out1', 'a', '']);
		expect(settingsList(rig).map(([name]) => name)).toEqual(['Device', 'a', 'b', 'c']);
	});

	it('draw the front of an interface with what is plugged in, and nothing that could be markup', () => {
		const odd = studio([module('a', { name: '<b>&"' })], { cables: [cable('ferry.out1', 'a.in')] });
		const svg = frontView(odd, odd.devices[0]);
		expect(svg).toContain('&lt;b&gt;&amp;&quot;');
		expect(svg.match(/<circle cx="44"/g)).toHaveLength(8);
	});
});
