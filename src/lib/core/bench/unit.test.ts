import { describe, expect, it } from 'vitest';
import { frameAll, identityRequest } from '../sysex';
import { fromHex, joinBytes, toHex } from '../midi';
import { freezeMemory, inventName, seededRandom, thawMemory } from '.';
import { shippedProfiles, workbench } from './bench.fixture';

/** Sends bytes to a device and collects its answers. */
function talk(bench: ReturnType<typeof workbench>, ...messages: (string | Uint8Array)[]): string[] {
	const answers: Uint8Array[] = [];
	const stop = bench.station.listen({
		bytes: (bytes) => answers.push(bytes),
		plugged: () => undefined,
		unplugged: () => undefined
	});
	for (const message of messages)
		bench.station.send(typeof message === 'string' ? fromHex(message) : message, () => undefined);
	bench.clock.run();
	stop();
	return frameAll(joinBytes(answers)).map(({ bytes }) => toHex(bytes));
}

describe('manners', () => {
	it('says who it is, to its own ID and to all, and to no other', () => {
		const bench = workbench('tarnow-parallax');
		const reply = 'f07e0006027d3400020001040000f7';
		expect(talk(bench, identityRequest(0))).toEqual([reply]);
		expect(talk(bench, identityRequest())).toEqual([reply]);
		expect(talk(bench, identityRequest(1))).toEqual([]);
		expect(talk(workbench('quillon-nadir'), identityRequest())).toEqual([]);
	});

	it('ignores what is not for it: other makers, models, device IDs, broken messages', () => {
		const bench = workbench('ternhill-umbra');
		expect(
			talk(bench, 'f0 7c 66 00 11 f7', 'f0 7d 65 00 11 f7', 'f0 7d 66 01 11 f7', 'f0 7d 66 00 11')
		).toEqual([]);
		expect(talk(bench, 'f0 7d 66 00 11 f7')[0]).toMatch(/^f07d660001/);
	});

	it('the Parallax acknowledges, rejects a bad checksum, and says when it is busy or locked', () => {
		const bench = workbench('tarnow-parallax');
		const dump = fromHex(talk(bench, 'f0 7d 34 00 20 07 f7')[0]);
		expect(talk(bench, dump)).toEqual(['f07d34007207f7', 'f07d34007007f7']);
		const bad = dump.slice();
		bad[20] ^= 1;
		expect(talk(bench, bad)).toEqual(['f07d34007107f7']);
		bench.unit.setSwitch('protect', 1);
		expect(talk(bench, dump)).toEqual(['f07d34007307f7']);
	});

	it('the Nadir dumps at its own button, at its own pace', () => {
		const bench = workbench('quillon-nadir');
		bench.clock.after(0, () => bench.unit.dump());
		const dumps = talk(bench);
		expect(dumps).toHaveLength(6);
		expect(dumps.map((hex) => hex.slice(10, 12))).toEqual(['00', '01', '02', '03', '04', '05']);
		expect(() => workbench('ternhill-umbra').unit.dump()).toThrow('has no dump button');
	});

	it('the Orrery stays busy after a bank, and loses what comes too soon', () => {
		const bench = workbench('vellbrook-orrery');
		const [bank] = talk(bench, 'f0 7d 21 00 11 f7');
		talk(bench, fromHex(bank), fromHex(bank), fromHex(bank));
		expect(bench.unit.lostBytes).toBeGreaterThan(800);
		const patient = workbench('vellbrook-orrery');
		talk(patient, fromHex(bank));
		talk(patient, fromHex(bank));
		expect(patient.unit.lostBytes).toBe(0);
	});
});

describe('the front panel', () => {
	it('shows the program, walks round its slots, edits and renames within its limits', () => {
		const { unit } = workbench('quillon-nadir');
		expect(unit.panel()).toMatchObject({
			display: ['Kit 01', expect.any(String), ''],
			dumpButton: 'DUMP ALL KITS',
			slots: 48
		});
		unit.select(-1);
		expect(unit.panel().program.label).toBe('48');
		unit.edit('kits', 47, 'swing', 50);
		expect(unit.panel().program.parameters.find(({ id }) => id === 'swing')!.shown).toBe('75.0\u00a0%');
		expect(() => unit.edit('kits', 47, 'swing', 51)).toThrow('“Swing” takes');
		expect(() => unit.edit('kits', 47, 'colour', 1)).toThrow('no parameter “colour”');
		unit.rename('kits', 47, 'DUSK');
		expect(unit.panel().display[1]).toBe('DUSK');
		expect(() => unit.rename('kits', 47, 'dusk')).toThrow('cannot show “d”');
		expect(() => unit.edit('kits', 99, 'swing', 1)).toThrow('no slot 99');
	});

	it('refuses switches that it does not have and values that it cannot show', () => {
		const { unit } = workbench('tarnow-parallax');
		expect(() => unit.setSwitch('turbo', 1)).toThrow('no switch “turbo”');
		expect(() => unit.setSwitch('deviceId', 33)).toThrow('goes from 1 to 32');
		unit.setSwitch('deviceId', 7);
		expect(unit.deviceId).toBe(6);
	});

	it('forgets at power-off what the real one forgets, and no sound', () => {
		const { unit } = workbench('quillon-nadir');
		const before = toHex(freezeMemory(unit.profile, unit.state));
		unit.setSwitch('protect', 0);
		unit.setSwitch('exclusive', 1);
		unit.setSwitch('deviceId', 3);
		unit.powerCycle();
		expect(unit.switches.map(({ id, value }) => [id, value])).toEqual([
			['protect', 1],
			['exclusive', 0],
			['deviceId', 3]
		]);
		expect(toHex(freezeMemory(unit.profile, unit.state))).toBe(before);
	});

	it('tells whoever keeps it of every change', () => {
		const { unit } = workbench('ternhill-umbra');
		let changes = 0;
		unit.changed = () => changes++;
		unit.setSwitch('protect', 1);
		unit.edit('programs', 0, 'decay', 5);
		unit.swap('programs', 0, 1);
		unit.select(4);
		expect(changes).toBe(4);
	});
});

describe.each(shippedProfiles.map((profile) => [profile.id, profile] as const))(
	'memory of %s',
	(id, profile) => {
		it('is frozen and thawed without loss, and a wrong size is refused', () => {
			const { state } = workbench(id).unit;
			const frozen = freezeMemory(profile, state);
			expect(thawMemory(profile, frozen)).toEqual(state.memory);
			expect(() => thawMemory(profile, frozen.subarray(1))).toThrow(/has \d+ bytes instead of/);
		});

		it('gets made-up names that its display can show', () => {
			const record = profile.records[profile.areas[0].record];
			if (!record.name) return;
			const random = seededRandom(1);
			for (let i = 0; i < 50; i++)
				expect(inventName(profile, record, random).length).toBeLessThanOrEqual(record.name.length);
		});
	}
);
