import { BenchStation, factoryState, seededRandom } from '../src/lib/core/bench';
import type { Cairn } from '../src/lib/core/bench/models/cairn';
import { keepLinks } from '../src/lib/core/drawer';
import { VirtualClock, converse, restore, type RestoreOutcome } from '../src/lib/core/transfer';
import { toHex } from '../src/lib/core/midi';
import { decodeDump, makeSlot, messagesFor, parseProfile, type Profile } from '../src/lib/core/profile';
import { shippedProfile } from '../src/lib/server/profiles';
import { n, type Row } from './bench-rows';

const SLOTS = 128;
const AIM_MS = 50;

/** A shipped model with 128 slots of its first kind, and what all of them travel in. */
function large(id: string, change: (json: Profile) => void): { profile: Profile; messages: Uint8Array[] } {
	const json = structuredClone(shippedProfile(id));
	json.areas = json.areas.slice(0, 1);
	json.areas[0].slots = SLOTS;
	json.areas[0].labels = { style: 'number', first: 1, digits: 3, prefix: '' };
	change(json);
	const profile = parseProfile(json);
	const area = profile.areas[0].id;
	const slots = factoryState(profile, seededRandom(1)).memory[area].map((bytes, i) =>
		makeSlot(profile, area, i, bytes)
	);
	return {
		profile,
		messages: messagesFor(profile, slots, { deviceId: profile.addressing.deviceId?.default })
	};
}

/** The median of so many readings, in ms, after some that only warm up. */
function decoding({ profile, messages }: ReturnType<typeof large>): number {
	const times: number[] = [];
	for (let i = 0; i < 25; i++) {
		const start = performance.now();
		if (decodeDump(profile, messages).slots.length !== SLOTS) throw new Error('Not all of it was read.');
		if (i >= 5) times.push(performance.now() - start);
	}
	return times.sort((a, b) => a - b)[Math.floor(times.length / 2)];
}

/** Reading dumps of instruments that do not pack whole records together, against one that does. */
export function profiles(row: Row): void {
	const addressed = large('harbeck-cairn', ({ capture, restore, messages: _, ...json }) => {
		json.areas[0].addresses = [{ from: 0, base: '20 00 00', stride: '00 08 00' }];
		capture.splice(1);
		restore.splice(1);
	});
	const severalMessages = large('ostler-fathom', () => undefined);
	const sum = ({ messages }: typeof addressed) => messages.reduce((all, { length }) => all + length, 0);
	const perByte = decoding(addressed) / sum(addressed);
	row(
		`Decoding ${SLOTS} slots of addressed memory in six blocks each, ms`,
		n(decoding(addressed)),
		`${addressed.messages.length} messages, ${n(sum(addressed), 0)} bytes; aim ${AIM_MS}`
	);
	row(
		`Decoding ${SLOTS} sounds of ten messages each, with CRC-16, ms`,
		n(decoding(severalMessages)),
		`${severalMessages.messages.length} messages, ${n(sum(severalMessages), 0)} bytes; ${n(decoding(severalMessages) / sum(severalMessages) / perByte, 2)} × the time a byte`
	);
	movingTones(row);
}

const MOVED = 40;
/** Plans are made in less, in ms. */
const PLAN_AIM_MS = 1000;

/** Forty of 128 tones change places under 128 performances of eight parts each: planned, sent, and proved on the device. */
function movingTones(row: Row): void {
	const json = structuredClone(shippedProfile('harbeck-cairn'));
	for (const area of json.areas.slice(0, 2)) area.slots = SLOTS;
	json.areas[0].addresses = [{ from: 0, base: '20 00 00', stride: '00 08 00' }];
	json.areas[0].labels = { style: 'number', first: 1, digits: 3, prefix: 'T' };
	json.areas[1].labels = { style: 'number', first: 1, digits: 3, prefix: 'P' };
	for (const parameter of json.records.performance.parameters)
		if (parameter.id.endsWith('bank'))
			Object.assign(parameter, { range: [0, 7], bits: 3, values: undefined });
	const profile = parseProfile(json);
	const clock = new VirtualClock();
	const state = factoryState(profile, seededRandom(4));
	const station = new BenchStation('bench', profile, state, clock, seededRandom(5));
	const unit = station.unit as Cairn;
	const { tones, performances } = unit.state.memory;
	const played = () => performances.map((_, i) => unit.played(i).map((bytes) => toHex(bytes)));
	const before = played();
	const known = ['tones', 'performances'].flatMap((area) =>
		unit.state.memory[area].map((bytes, i) => makeSlot(profile, area, i, bytes.slice()))
	);
	const wanted = Array.from({ length: MOVED }, (_, i) =>
		makeSlot(profile, 'tones', i * 3, tones[((i + 1) % MOVED) * 3].slice())
	);
	const start = performance.now();
	const kept = keepLinks(profile, known, wanted);
	const ms = performance.now() - start;
	let outcome: RestoreOutcome | undefined;
	converse(
		restore(
			{ profile, target: { deviceId: 16, channel: 1 }, wanted: kept.wanted, expected: known },
			() => undefined
		),
		{ link: station, clock, trace: () => undefined, keep: (_, done) => done() },
		(result) => (outcome = result)
	);
	clock.run(() => outcome !== undefined);
	if (outcome?.status !== 'verified') throw new Error(`It was not proved: ${outcome?.reason?.says}`);
	if (JSON.stringify(played()) !== JSON.stringify(before))
		throw new Error('A performance plays something else.');
	row(
		`Planning to move ${MOVED} of ${SLOTS} tones under ${SLOTS} performances of eight parts, ms`,
		n(ms),
		`${kept.pointed.length} references of ${kept.wanted.length - MOVED} performances; proved on the simulated device; aim ${PLAN_AIM_MS}`
	);
}
