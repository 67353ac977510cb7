import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { factoryState, seededRandom } from '../bench';
import { shippedProfiles, workbench } from '../bench/bench.fixture';
import { finished, PIECES } from '../steps';
import { makeSlot, messagesFor, recogniseDump, splitDump, splitting } from '.';

/** A dump of one device, from its factory memory. */
const dump = (at: number, deviceId: number): Uint8Array[] => {
	const profile = shippedProfiles[at];
	const { memory } = factoryState(profile, seededRandom(at + 10 * deviceId));
	const slots = profile.areas.flatMap(({ id }) =>
		memory[id].map((bytes, index) => makeSlot(profile, id, index, bytes))
	);
	return messagesFor(profile, slots, { deviceId, channel: 1 });
};

describe('a file that holds dumps of several devices', () => {
	it('is cut by model and device ID, every message in exactly one part', () => {
		const source = fc.tuple(fc.nat(shippedProfiles.length - 1), fc.integer({ min: 1, max: 3 }));
		fc.assert(
			fc.property(fc.uniqueArray(source, { selector: String, minLength: 1, maxLength: 4 }), (sources) => {
				const file = sources.flatMap(([at, id]) => dump(at, id));
				const parts = splitDump(shippedProfiles, file);
				expect(parts.flatMap(({ messages }) => messages).sort((a, b) => a - b)).toEqual(
					file.map((_, i) => i)
				);
				for (const { profile, deviceId, messages } of parts)
					for (const [at, id] of sources) {
						const own = new Set(dump(at, id));
						if (shippedProfiles[at] !== profile || (deviceId !== null && deviceId !== id)) continue;
						expect(messages.length).toBeGreaterThanOrEqual(deviceId === null ? 1 : own.size);
					}
			}),
			{ numRuns: 40 }
		);
	});

	it.each(['averill-sconce', 'averill-sconce-2', 'averill-sconce-2-card'])(
		'a dump of a variant is one part: %s',
		(id) => {
			const { profile, unit } = workbench(id, 3);
			const slots = profile.areas.flatMap(({ id: area }) =>
				unit.state.memory[area].map((bytes, i) => makeSlot(profile, area, i, bytes))
			);
			const messages = messagesFor(profile, slots, { deviceId: 4, channel: 1 });
			for (const profiles of [shippedProfiles, shippedProfiles.toReversed()]) {
				const parts = splitDump(profiles, messages);
				expect(parts).toMatchObject([{ profile: { id }, deviceId: 4, messages: messages.map((_, i) => i) }]);
				const known = recogniseDump(profiles, messages);
				expect(finished(splitting(profiles, messages, known))).toEqual(parts);
			}
		}
	);

	it('a damaged message stays with its model, an unknown one is a part of its own', () => {
		const own = dump(1, 1);
		const broken = own[0].slice();
		broken[broken.length - 3] ^= 1;
		const stranger = Uint8Array.of(0xf0, 0x7d, 0x7f, 1, 2, 3, 0xf7);
		const parts = splitDump(shippedProfiles, [broken, ...own, stranger]);
		expect(parts.map(({ profile, messages }) => [profile?.id ?? null, messages.length])).toEqual([
			[shippedProfiles[1].id, own.length + 1],
			[null, 1]
		]);
	});

	it('of 100,000 damaged messages is cut in steps, each of them sorted in once', () => {
		const [own] = dump(1, 1);
		const broken = own.slice();
		broken[broken.length - 3] ^= 1;
		const cutting = splitting(
			[shippedProfiles[1]],
			Array.from({ length: 100_000 }, () => broken),
			[]
		);
		let steps = 0;
		let step = cutting.next();
		for (; !step.done; step = cutting.next()) steps++;
		expect(step.value.map(({ messages }) => messages.length)).toEqual([100_000]);
		// Others are let in while the damaged ones are sorted in, too.
		expect(steps).toBeGreaterThan(2 * (100_000 / PIECES) - 2);
	}, 20_000);
});
