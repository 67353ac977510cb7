import { describe, expect, it } from 'vitest';
import { applyEdits } from '../../edit';
import {
	batteryChanged,
	carriedOutEdits,
	dayAfter,
	daysUntil,
	doneEdits,
	dueBy,
	faultsToAsk,
	serviceBookSchema,
	updatePlanned,
	wornFor
} from './book';

const book = serviceBookSchema.parse({
	entries: [
		{ id: 'e1', device: 'orrery', on: '2019-04-02', kind: 'battery', says: 'New cell' },
		{ id: 'e2', device: 'orrery', on: '2017-01-10', kind: 'battery', says: 'New cell' },
		{ id: 'e3', device: 'umbra', on: '2025-04-02', kind: 'battery', says: 'New cell' }
	],
	due: [
		{ id: 'd1', device: 'orrery', on: '2026-12-10', kind: 'calibration', says: 'Tune', everyMonths: 12 },
		{ id: 'd2', device: 'orrery', on: '2026-11-20', kind: 'cleaning', says: 'Keys' },
		{ id: 'd3', device: 'umbra', on: '2027-03-01', kind: 'inspection', says: 'Fan' },
		{ id: 'd4', device: 'west', on: '2026-12-04', kind: 'firmware', says: '1.07' }
	],
	faults: [
		{
			id: 'f1',
			device: 'west',
			since: '2026-08-01',
			says: 'Wipes itself',
			firmware: '1.06',
			losesSounds: true
		},
		{ id: 'f2', device: 'west', since: '2026-08-01', says: 'Buzz', firmware: '1.07' },
		{
			id: 'f3',
			device: 'west',
			since: '2026-08-01',
			says: 'Gone',
			firmware: '1.04',
			mended: { on: '2026-09-01', firmware: '1.06' }
		}
	],
	worn: [
		{ id: 'w1', device: 'orrery', control: 'WRITE', how: 'dead', needed: ['sending', 'update'] },
		{ id: 'w2', device: 'orrery', control: 'Slider 3', how: 'worn', needed: ['playing'] }
	]
});

describe('the service book', () => {
	it('says what is due within two weeks or overdue, and how many days off', () => {
		expect(dueBy(book, '2026-11-28').map(({ id, days }) => [id, days])).toEqual([
			['d2', -8],
			['d4', 6],
			['d1', 12]
		]);
		expect(dueBy(book, '2026-11-28T23:59:00.000Z', 0).map(({ id }) => id)).toEqual(['d2']);
		expect(daysUntil('2026-02-28', '2026-03-01')).toBe(1);
		expect(daysUntil('2028-02-28', '2028-03-01')).toBe(2);
		expect(dayAfter('2026-12-30', 3)).toBe('2027-01-02');
	});

	it('makes an entry of what was done, and has it come again from that day on', () => {
		const done = { on: '2026-12-31', by: 'Ada', firmware: '' };
		const after = serviceBookSchema.parse(applyEdits(book, doneEdits(book, 'd1', done, 'e9')));
		expect(after.entries.at(-1)).toMatchObject({ id: 'e9', kind: 'calibration', says: 'Tune', by: 'Ada' });
		expect(after.due.find(({ id }) => id === 'd1')!.on).toBe('2027-12-31');
		const once = applyEdits(book, doneEdits(book, 'd2', done, 'e9'));
		expect(once.due.map(({ id }) => id)).toEqual(['d1', 'd3', 'd4']);
		expect(doneEdits(book, 'nothing', done, 'e9')).toEqual([]);
	});

	it('has a procedure that was carried out do what was due by it, and note itself where nothing was', () => {
		const planned = serviceBookSchema.parse({
			due: [
				{
					id: 'later',
					device: 'west',
					on: '2027-06-01',
					kind: 'firmware',
					says: '1.08',
					procedure: 'update'
				},
				{ id: 'now', device: 'west', on: '2026-12-04', kind: 'firmware', says: '1.07', procedure: 'update' }
			]
		});
		const done = {
			device: 'west',
			procedure: 'update',
			kind: 'firmware' as const,
			says: 'Firmware update',
			on: '2026-12-03',
			firmware: '1.07'
		};
		const after = applyEdits(planned, carriedOutEdits(planned, done, 'e'));
		expect(after.due.map(({ id }) => id)).toEqual(['later']);
		expect(after.entries).toMatchObject([{ says: '1.07', on: '2026-12-03', firmware: '1.07' }]);
		const other = applyEdits(planned, carriedOutEdits(planned, { ...done, device: 'east' }, 'e'));
		expect(other.due).toHaveLength(2);
		expect(serviceBookSchema.parse(other).entries).toMatchObject([
			{ device: 'east', says: 'Firmware update' }
		]);
	});

	it('ends a month that is shorter on its last day', () => {
		const monthly = serviceBookSchema.parse({
			due: [{ id: 'm', device: 'a', on: '2027-01-31', kind: 'note', says: 'x', everyMonths: 1 }]
		});
		const done = { on: '2027-01-31', by: '', firmware: '' };
		expect(applyEdits(monthly, doneEdits(monthly, 'm', done, 'e')).due[0].on).toBe('2027-02-28');
	});

	it('knows the last battery, the update that is planned, and the controls that something needs', () => {
		expect(batteryChanged(book, 'orrery')).toBe('2019-04-02');
		expect(batteryChanged(book, 'west')).toBeNull();
		expect(updatePlanned(book, 'west', '2026-11-28')?.id).toBe('d4');
		expect(updatePlanned(book, 'west', '2026-11-01')).toBeNull();
		expect(updatePlanned(book, 'orrery', '2026-12-30')).toBeNull();
		expect(wornFor(book, 'orrery', 'sending').map(({ id }) => id)).toEqual(['w1']);
		expect(wornFor(book, 'orrery', 'receiving')).toEqual([]);
	});

	it('asks again for open faults that were last seen with other firmware', () => {
		expect(faultsToAsk(book, 'west', '1.07').map(({ id }) => id)).toEqual(['f1']);
		expect(faultsToAsk(book, 'west', ' 1.06 ').map(({ id }) => id)).toEqual(['f2']);
		expect(faultsToAsk(book, 'west', '')).toEqual([]);
	});

	it('takes no date that is none, and no entry without words', () => {
		const bad = (more: object) =>
			serviceBookSchema.safeParse({
				entries: [{ id: 'e', device: 'a', on: '2026-01-01', kind: 'note', says: 'x', ...more }]
			}).success;
		expect(bad({})).toBe(true);
		expect(bad({ on: '1.2.2026' })).toBe(false);
		expect(bad({ on: '2026-02-30' })).toBe(false);
		expect(bad({ says: '  ' })).toBe(false);
		expect(bad({ kind: 'magic' })).toBe(false);
	});
});
