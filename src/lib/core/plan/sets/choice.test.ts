import { expect, it } from 'vitest';
import { seeded } from '../studio.fixture';
import type { Candidate } from '../task';
import { choiceOf, giveAll } from './choice';

/** Every way to give a device channels, straight from what it can receive on. */
function waysOf({ blocks, loose, parts, lockChannel }: Candidate, reserved: readonly number[]): number[][] {
	const free = (channels: readonly number[]) => !channels.some((channel) => reserved.includes(channel));
	if (loose.length === 0) return blocks.filter(free);
	const subsets = (from: number, many: number): number[][] =>
		many === 0
			? [[]]
			: loose.flatMap((channel, i) =>
					i < from ? [] : subsets(i + 1, many - 1).map((rest) => [channel, ...rest])
				);
	return subsets(0, parts).filter((way) => free(way) && (lockChannel === null || way[0] === lockChannel));
}

it('changes as few as any choice does, with the smallest sum', () => {
	const random = seeded(9);
	const pick = (n: number) => Math.floor(random() * n);
	const all = Array.from({ length: 16 }, (_, i) => i + 1);
	for (let turn = 0; turn < 1500; turn++) {
		const reserved = random() < 0.3 ? [1 + pick(3)] : [];
		const devices = Array.from({ length: 1 + pick(3) }, () => {
			const parts = 1 + pick(3);
			const able = all.filter((channel) => channel <= 6 && random() < 0.7);
			const isLoose = parts > 1 && random() < 0.5 && able.length >= parts;
			const first = 1 + pick(5);
			const lockChannel = random() < 0.2 ? first : null;
			const blocks = all
				.map((channel) => Array.from({ length: parts }, (_, i) => channel + i))
				.filter((block) => block.every((channel) => able.includes(channel)))
				.filter(([channel]) => lockChannel === null || channel === lockChannel);
			return {
				parts,
				blocks: isLoose ? [] : blocks,
				loose: isLoose ? able.filter((channel) => channel >= (lockChannel ?? 1)) : [],
				lockChannel,
				present: { channels: Array.from({ length: parts }, (_, i) => first + i) }
			} as unknown as Candidate;
		});
		const choices = devices.map((device) =>
			choiceOf(
				device,
				devices.filter((other) => other !== device),
				reserved,
				3
			)
		);
		let best: [number, number] | null = null;
		const visit = (at: number, taken: readonly number[], changed: number, sum: number) => {
			if (at === devices.length) {
				if (!best || changed < best[0] || (changed === best[0] && sum < best[1])) best = [changed, sum];
				return;
			}
			for (const way of waysOf(devices[at], reserved))
				if (!way.some((channel) => taken.includes(channel)))
					visit(
						at + 1,
						[...taken, ...way],
						changed + (way.join() === devices[at].present.channels.join() ? 0 : 1),
						sum + way.reduce((total, channel) => total + channel, 0)
					);
		};
		visit(0, [], 0, 0);
		const given = giveAll(choices);
		expect({ turn, given: given && [given.changed, given.sum] }).toEqual({ turn, given: best });
		if (!given) continue;
		// What is given is what is counted.
		expect(given.channels.flat().reduce((total, channel) => total + channel, 0)).toBe(given.sum);
		expect(new Set(given.channels.flat()).size).toBe(given.channels.flat().length);
		given.channels.forEach((channels, i) =>
			expect(waysOf(devices[i], reserved).map((way) => way.join())).toContain(channels.join())
		);
		devices.forEach((device, i) => {
			const sums = waysOf(device, reserved).map((way) => way.reduce((total, channel) => total + channel, 0));
			expect(choices[i].leastSum).toBe(Math.min(...sums));
		});
	}
});
