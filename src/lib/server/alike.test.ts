import { expect, it } from 'vitest';
import { makeSlot, writeParameter, type Slot } from '../core/profile';
import { alikeTo } from './alike';
import { hashOf } from './hash';
import { anUmbra, keep, renamed } from './heart.fixture';
import { freshStudio } from './studio.fixture';

const here = freshStudio();

it('finds what differs in six parameters at most, in all drawers, the nearest first', async () => {
	const { device, profile, slots } = await anUmbra(here.studio);
	const { parameters } = profile.records.program;
	/** A copy in another slot, with so many parameters changed. */
	const changed = (index: number, count: number): Slot => {
		const bytes = parameters
			.slice(0, count)
			.reduce(
				(record, parameter) =>
					writeParameter(
						parameter,
						record,
						parameter.range[0] === parameter.range[1]
							? parameter.range[0]
							: slots[3].bytes[parameter.offset] === 0
								? parameter.range[1]
								: parameter.range[0]
					),
				slots[3].bytes
			);
		return makeSlot(profile, 'programs', index, bytes);
	};
	const named = renamed(profile, slots, 40, 'Untouched')[40];
	const all = slots.map((slot) =>
		slot.index === 10
			? changed(10, 2)
			: slot.index === 11
				? changed(11, 9)
				: slot.index === 12
					? makeSlot(profile, 'programs', 12, slots[3].bytes)
					: slot.index === 40
						? named
						: slot
	);
	await keep(here.studio, device, profile, all);
	const found = await alikeTo(here.studio, hashOf(slots[3].bytes));
	expect(found.map(({ places }) => places.map(({ label }) => label))).toEqual([['11']]);
	const [near] = found;
	expect(near.change!.parameters.length).toBeGreaterThan(0);
	expect(near.change!.parameters.length).toBeLessThanOrEqual(2);
	await expect(alikeTo(here.studio, 'f'.repeat(64))).rejects.toMatchObject({ code: 'sound.not-found' });
});
