import { describe, expect, it } from 'vitest';
import { rigSchema } from '../rig';
import { powerOfRig } from './from-rig';
import { loadOfDevice, readLabel } from './label';
import { checkPower } from './rules';

describe('a label', () => {
	it.each([
		['9 V DC, centre negative, 120 mA', { volts: [9, 9], kind: 'DC', polarity: 'negative', ma: 120 }],
		['9–18V DC center-positive 0.5A', { volts: [9, 18], kind: 'DC', polarity: 'positive', ma: 500 }],
		['12 V AC, 1,2 A', { volts: [12, 12], kind: 'AC', polarity: 'none', ma: 1200 }],
		['9 V', { volts: [9, 9], kind: null, polarity: null, ma: null }],
		['8 isolated outputs, 9 V DC, 200 mA each.', { volts: [9, 9], kind: 'DC', polarity: null, ma: null }],
		['100 mA running, 300 mA at start', { volts: null, kind: null, polarity: null, ma: null }],
		['AC or DC, 12 V', { volts: [12, 12], kind: null, polarity: null, ma: null }],
		['see the manual', { volts: null, kind: null, polarity: null, ma: null }],
		['', { volts: null, kind: null, polarity: null, ma: null }]
	])('“%s” says what stands there, and no more', (text, says) => {
		expect(readLabel(text)).toEqual(says);
	});

	it('makes a load of a device, with what is not there left to be read', () => {
		expect(loadOfDevice({ id: 'x', name: 'Lantern', power: '9 V DC, 120 mA' }, 'lantern')).toMatchObject({
			id: 'lantern',
			device: 'x',
			volts: [9, 9],
			polarity: null
		});
	});
});

describe('the power of a wiring', () => {
	it('says who hangs where, and that every label is to be read', () => {
		const port = (id: string, direction: string) => ({ id, name: id, direction, connector: 'power' });
		const power = powerOfRig(
			rigSchema.parse({
				format: 'silent-drawer.rig',
				version: 2,
				devices: [
					{ id: 'f', name: 'Feed', ports: [port('f.1', 'out'), port('f.2', 'out')] },
					{ id: 'p', name: 'Pedal', ports: [port('p.in', 'in')] }
				],
				cables: [{ from: 'p.in', to: 'f.2' }]
			})
		);
		expect(power.cables).toEqual([{ load: 'p.in', supply: 'f', output: 'f.2', through: 'plain' }]);
		expect(checkPower(power).map(({ rule }) => rule)).toEqual(['read-the-label']);
	});
});
