import { describe, expect, it } from 'vitest';
import { factoryState, seededRandom } from '../core/bench';
import { deviceSchema } from '../core/gear';
import { toHex } from '../core/midi';
import { linksIn, makeSlot, pointTo, type Slot } from '../core/profile';
import { addDevice } from './gear';
import { hashOf } from './hash';
import { keep } from './heart.fixture';
import { shippedProfile } from './profiles';
import { slotFacts } from './slot-facts';
import { freshStudio } from './studio.fixture';
import { checkTransfer } from './transfer-check';
import { beginTransfer, wantedOf } from './transfers';

const here = freshStudio();
const AREAS = ['tones', 'performances'];

/** A Cairn whose first performance plays tones 2 to 9 and whose other ones all play tone 20, backed up once. */
async function aCairn() {
	const profile = shippedProfile('harbeck-cairn');
	const device = await addDevice(
		here.studio,
		deviceSchema.parse({ name: 'Cairn', profileId: profile.id, deviceId: 16 })
	);
	const { memory } = factoryState(profile, seededRandom(6));
	const naming = (bytes: Uint8Array, of: (part: number) => number) =>
		Array.from({ length: 8 }, (_, part) => part).reduce(
			(made, part) => pointTo(profile, 'performances', made, `part${part + 1}-tone`, of(part)),
			bytes
		);
	const slots = AREAS.flatMap((area) =>
		memory[area].map((bytes, index) =>
			makeSlot(
				profile,
				area,
				index,
				area === 'tones' ? bytes : naming(bytes, index === 0 ? (part) => 2 + part : () => 20)
			)
		)
	);
	const version = await keep(here.studio, device, profile, slots);
	const tone = (index: number) => slots.find((slot) => slot.area === 'tones' && slot.index === index)!;
	const check = (ask: string) =>
		checkTransfer(here.studio, new URLSearchParams(`device=${device.id}&${ask}`), 'hardware');
	/** Tones 3 and 40 change places. */
	const swap = `sounds=tones:40:${hashOf(tone(3).bytes)},tones:3:${hashOf(tone(40).bytes)}`;
	return { profile, device, slots, version, tone, check, swap };
}

describe('tones that change places', () => {
	it('are said to be played by the performance that names one of them, before anything is sent', async () => {
		const { check, swap } = await aCairn();
		const { links, check: found } = await check(swap);
		expect(links).toEqual({
			pointed: [
				{ word: 'performance', slot: 'P01', name: 'Part 2 tone', names: 'A04', then: 'C09', why: null }
			],
			lost: [],
			brought: [],
			unseen: []
		});
		expect(found!.wanted).toBe(2);
	});

	it('take it with them on wish: it is one more slot, and what all of them are thought to hold is kept', async () => {
		const { check, swap, device, slots, profile, tone } = await aCairn();
		const { source, scope, check: found } = await check(`${swap}&links=keep`);
		expect(found!.wanted).toBe(3);
		expect(found!.dry!.overwritten).toMatchObject([
			{ area: 'tones', index: 3 },
			{ area: 'tones', index: 40 },
			{ area: 'performances', index: 0 }
		]);
		const { id } = await beginTransfer(here.studio, {
			world: 'hardware',
			deviceId: device.id,
			direction: 'restore',
			scope,
			source: source!
		});
		const wanted = (await wantedOf(here.studio, id)).slots;
		const held = (area: string, index: number) =>
			toHex(slots.find((slot) => slot.area === area && slot.index === index)!.bytes);
		expect(wanted.map(({ area, index, over }) => [area, index, over])).toEqual([
			['tones', 3, held('tones', 3)],
			['tones', 40, held('tones', 40)],
			['performances', 0, held('performances', 0)]
		]);
		const performance = Uint8Array.from(Buffer.from(wanted[2].hex, 'hex'));
		expect(linksIn(profile, 'performances', performance)[1].slot).toBe(40);
		expect(wanted[1].hex).toBe(toHex(tone(3).bytes));
	});

	it('say of whom it is not known what they play, where performances were never read', async () => {
		const { device, profile, slots, check, tone } = await aCairn();
		const other = await addDevice(
			here.studio,
			deviceSchema.parse({ name: 'Other Cairn', profileId: profile.id, deviceId: 17 })
		);
		await keep(
			here.studio,
			other,
			profile,
			slots.filter(({ area, index }) => area === 'tones' || index < 30)
		);
		const ask = new URLSearchParams(`device=${other.id}&sounds=tones:3:${hashOf(tone(40).bytes)}`);
		const { links } = await checkTransfer(here.studio, ask, 'hardware');
		expect(links!.unseen).toEqual([{ word: 'performance', slots: 2, of: 32 }]);
		expect((await check(`version=${'x'}`).catch(({ code }) => code)) as string).toBe('version.not-found');
		expect(device.id).not.toBe(other.id);
	});

	it('say which sound is nowhere then, where one is written over', async () => {
		const { check, tone } = await aCairn();
		const { links } = await check(`sounds=tones:2:${hashOf(tone(40).bytes)}`);
		expect(links!.lost).toMatchObject([{ slot: 'P01', name: 'Part 1 tone', why: 'nowhere', then: null }]);
	});
});

it('a performance of an older version brings the tones that it plays, and means what it meant there', async () => {
	const { profile, device, slots, version, check } = await aCairn();
	// Since then tone 5 was made anew, and the performance too.
	const now = slots.map((slot): Slot => {
		if (slot.area === 'tones' && slot.index === 5)
			return makeSlot(
				profile,
				'tones',
				5,
				Uint8Array.from(slot.bytes, (byte, i) => (i === 70 ? byte ^ 1 : byte))
			);
		return slot;
	});
	await keep(here.studio, device, profile, now);
	const performance = hashOf(slots.find(({ area }) => area === 'performances')!.bytes);
	const ask = `sounds=performances:9:${performance}:${version.id}`;
	const { links } = await check(ask);
	expect(links!.lost).toMatchObject([{ slot: 'P10', name: 'Part 4 tone', why: 'nowhere' }]);
	expect(links!.brought).toHaveLength(1);
	const { source, check: found } = await check(`${ask}&links=bring`);
	expect(found!.wanted).toBe(2);
	expect(source).toMatchObject({ from: 'sounds', links: 'bring' });
	// Of another version it would mean the tone that is there now.
	expect((await check(`sounds=performances:9:${performance}`)).links!.lost).toEqual([]);
});

it('a slot shows what it plays, and what plays it', async () => {
	const { version } = await aCairn();
	const performance = await slotFacts(here.studio, version.id, 'performances:0');
	expect(performance.plays.map(({ name, label, held }) => [name, label, held]).slice(0, 2)).toEqual([
		['Part 1 tone', 'A03', true],
		['Part 2 tone', 'A04', true]
	]);
	const tone = await slotFacts(here.studio, version.id, 'tones:9');
	expect(tone.playedBy.map(({ name, label }) => [name, label])).toEqual([['Part 8 tone', 'P01']]);
	expect(tone.plays).toEqual([]);
});
