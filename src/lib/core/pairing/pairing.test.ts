import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rigSchema } from '../rig';
import { compareVersions, pairingMatrix, whoCan, type PairedDevice } from './ask';
import {
	CONDITIONS,
	PAIRING_RESULTS,
	PAIRING_WAYS,
	pairingRecordSchema,
	pairingsSchema,
	type PairingRecord
} from './pairing';
import { pairingNotes } from './pairing-check';
import { pairingTable, readPairingTable } from './pairing-table';

const device = (id: string, model: string, firmware = '', maker = 'Bessel'): PairedDevice => ({
	id,
	name: id,
	maker,
	model,
	firmware
});
const record = (more: object = {}) => ({
	id: 'r',
	from: { maker: 'Bessel', model: 'Treadle 6' },
	to: { maker: 'Bessel', model: 'Lantern' },
	way: 'din',
	does: 'tap tempo',
	result: 'works',
	...more
});
const pairings = (...records: object[]) =>
	pairingsSchema.parse({ records: records.map((each, i) => record({ id: `r${i}`, ...each })) });
const treadle = device('treadle', 'Treadle 6', '1.2');
const lantern = device('lantern', 'Lantern', '2.10');

describe('what of mine can do it', () => {
	const ask = (records: object[], devices: PairedDevice[] = [treadle, lantern]) =>
		whoCan(pairings(...records), devices, lantern, 'Tap tempo');

	it('is what was tried or read of the very model', () => {
		expect(ask([{}])).toMatchObject([{ device: { id: 'treadle' }, is: 'works', needed: [] }]);
		expect(ask([{ result: 'limits', limit: 'only up to 200 BPM' }])[0]).toMatchObject({
			is: 'limits',
			says: 'Works, within limits: only up to 200 BPM by DIN, by the manual.'
		});
		expect(ask([{ result: 'not' }])[0].is).toBe('not');
		expect(ask([])[0]).toMatchObject({ is: 'unknown', says: 'Nobody has tried or read it.' });
	});

	it('is not what a sister model can', () => {
		const [answer] = ask([{}], [device('big', 'Treadle 8'), lantern]);
		expect(answer).toMatchObject({ is: 'unknown', record: null });
		expect(answer.says).toBe(
			'Known only of the Treadle 6 with the Lantern: a sister model is not the model.'
		);
	});

	it('says what would have to be true, and compares firmware by its numbers', () => {
		const condition = (is: string) => ask([{ conditions: [{ what: 'to-firmware', is }] }])[0];
		expect(condition('≥ 2.9')).toMatchObject({ is: 'works', needed: [] });
		expect(condition('≥ 2.11')).toMatchObject({
			is: 'not now',
			needed: [{ says: 'lantern has firmware ≥ 2.11 (it has 2.10)', is: 'no' }]
		});
		const blank = whoCan(
			pairings({
				conditions: [
					{ what: 'from-firmware', is: '≥ 1' },
					{ what: 'mode', is: 'program mode' }
				]
			}),
			[device('treadle', 'Treadle 6')],
			lantern,
			'tap tempo'
		)[0];
		expect(blank.is).toBe('works');
		expect(blank.needed.map(({ is }) => is)).toEqual(['unknown', 'hand']);
		expect(compareVersions('1.10', '1.9')).toBe(1);
		expect(compareVersions('2', '2.0.0')).toBe(0);
		expect(compareVersions('old', '1')).toBeNull();
	});

	it('does not carry what was tried with another firmware over to this one', () => {
		const [answer] = ask([
			{ known: { by: 'tried', on: '2026-03-01', fromFirmware: '1.1', toFirmware: '2.10' } }
		]);
		expect(answer.needed).toEqual([
			{
				says: 'it is so with the firmware that treadle has (1.2), too: it was tried with 1.1',
				is: 'unknown'
			}
		]);
	});

	it('prefers the way that works now', () => {
		const [answer] = ask([{ result: 'not' }, { way: 'usb-host' }]);
		expect(answer).toMatchObject({ is: 'works', record: { way: 'usb-host' } });
	});

	it('stands in a matrix of all devices', () => {
		const matrix = pairingMatrix(pairings({}), [treadle, lantern], 'tap tempo');
		expect(matrix.map((row) => row.map(({ is }) => is))).toEqual([['unknown'], ['works']]);
	});
});

describe('cables of known pairs', () => {
	const port = (id: string, direction: string) => ({ id, name: id, direction, connector: 'din' });
	const rig = (model: string) =>
		rigSchema.parse({
			format: 'silent-drawer.rig',
			version: 2,
			devices: [
				{ id: 't', name: 'Treadle', model, ports: [port('t.out', 'out')] },
				{ id: 'l', name: 'Lantern', model: 'Bessel Lantern', ports: [port('l.in', 'in')] }
			],
			cables: [{ from: 'l.in', to: 't.out' }]
		});
	it('say what does not work on them, of that model and that way alone', () => {
		const notes = (records: object[], model = 'Bessel Treadle 6') =>
			pairingNotes(pairings(...records), rig(model));
		expect(notes([{ result: 'not' }]).map(({ says }) => says)).toEqual([
			'Treadle with Lantern: tap tempo does not work by DIN, by the manual.'
		]);
		expect(notes([{}])).toEqual([]);
		expect(notes([{ result: 'not', way: 'usb-host' }])).toEqual([]);
		expect(notes([{ result: 'not' }], 'Bessel Treadle 8')).toEqual([]);
	});
});

describe('pairings as a table', () => {
	const text = fc
		.string({ minLength: 1, maxLength: 20 })
		.map((each) => each.replace(/\p{C}/gu, '').trim())
		.filter((each) => each !== '' && !each.includes('\r'));
	const any: fc.Arbitrary<PairingRecord> = fc
		.record({
			from: fc.record({ maker: text, model: text }),
			to: fc.record({ maker: text, model: text }),
			way: fc.constantFrom(...Object.keys(PAIRING_WAYS)),
			does: text,
			result: fc.constantFrom(...Object.keys(PAIRING_RESULTS)),
			limit: fc.oneof(fc.constant(''), text),
			known: fc.record({
				by: fc.constantFrom('tried', 'label', 'manual'),
				on: fc.constantFrom('', '2026-03-31'),
				fromFirmware: fc.constantFrom('', '1.2'),
				toFirmware: fc.constantFrom('', '=2.0')
			}),
			conditions: fc.array(fc.record({ what: fc.constantFrom(...Object.keys(CONDITIONS)), is: text }), {
				maxLength: 3
			})
		})
		.map((each) => pairingRecordSchema.parse({ id: 'x', ...each }));

	it('come back as they were, whatever is written in them', () => {
		fc.assert(
			fc.property(fc.array(any, { maxLength: 5 }), (records) => {
				const back = readPairingTable(pairingTable(records));
				expect(back.faults).toEqual([]);
				expect(back.records.map((each) => ({ ...each, id: 'x' }))).toEqual(records);
			})
		);
	});

	it('name the line of a cell that means nothing, and take words for results', () => {
		const head = 'From model,To model,Way,Does,Result,On';
		const { records, faults } = readPairingTable(
			`${head}\nTreadle 6,Lantern,DIN,tempo,works within limits,\nTreadle 6,Lantern,smoke,tempo,works,\nTreadle 6,Lantern,din,tempo,works,yesterday`
		);
		expect(records).toHaveLength(1);
		expect(records[0]).toMatchObject({ result: 'limits', known: { by: 'manual' } });
		expect(faults.map(({ line }) => line)).toEqual([3, 4]);
		expect(readPairingTable('a,b\n1,2').faults[0].says).toContain('There is no column From model');
	});
});
