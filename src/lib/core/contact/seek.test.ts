import { describe, expect, it } from 'vitest';
import { computerPorts, search } from './studio.fixture';

const told = ({ sought }: ReturnType<typeof search>) =>
	sought.heard
		.map(({ out, in: back, identity, units }) => [out.id, back.id, identity.deviceId, units])
		.sort((a, b) => String(a).localeCompare(String(b)));

describe('a search on every port at once', () => {
	it('tells by which out each is reached and where it comes in, however the cables cross', () => {
		const found = search(computerPorts(8), [
			{ profile: 'vellbrook-orrery', out: 3, in: 5 },
			{ profile: 'tarnow-parallax', out: 5, in: 3, deviceId: 8 },
			{ profile: 'tarnow-parallax', out: 8, in: 1, deviceId: 8 },
			{ profile: 'ternhill-umbra', out: 1, in: null }
		]);
		expect(told(found)).toEqual([
			['out-3', 'in-5', 0, 1],
			['out-5', 'in-3', 7, 1],
			['out-8', 'in-1', 7, 1]
		]);
		expect(found.tookMs).toBeLessThan(1500 + 8 * 400);
	});

	it('counts those that answer as one on an out, whether they come in together or apart', () => {
		expect(
			told(
				search(computerPorts(4), [
					{ profile: 'ternhill-umbra', out: 2, in: 2, deviceId: 4 },
					{ profile: 'ternhill-umbra', out: 2, in: 2, deviceId: 4 }
				])
			)
		).toEqual([['out-2', 'in-2', 4, 2]]);
		expect(
			told(
				search(computerPorts(4), [
					{ profile: 'ternhill-umbra', out: 2, in: 1, deviceId: 4 },
					{ profile: 'ternhill-umbra', out: 2, in: 3, deviceId: 4 },
					{ profile: 'ternhill-umbra', out: 2, in: 3, deviceId: 5 }
				])
			)
		).toEqual([
			['out-2', 'in-1', 4, 2],
			['out-2', 'in-3', 4, 2],
			['out-2', 'in-3', 5, 1]
		]);
	});

	it('loses one failing port and nothing else', () => {
		const found = search(
			computerPorts(4),
			[
				{ profile: 'vellbrook-orrery', out: 1, in: 1 },
				{ profile: 'tarnow-parallax', out: 2, in: 2 },
				{ profile: 'ternhill-umbra', out: 3, in: 3 }
			],
			{ broken: [2] }
		);
		expect(found.sought.failed.map(({ id }) => id)).toEqual(['out-2']);
		expect(told(found).map(([out]) => out)).toEqual(['out-1', 'out-3']);
	});

	it('names the cable that leads straight back, and does not take it for an answer', () => {
		const found = search(computerPorts(4), [], { loops: [[4, 2]] });
		expect(found.sought.heard).toEqual([]);
		expect(found.sought.loops.map(({ out, in: back }) => [out.id, back.id])).toEqual([['out-4', 'in-2']]);
	});

	it('ends where nobody is, and where there is no port at all', () => {
		expect(search(computerPorts(4), []).sought).toMatchObject({ heard: [], failed: [], ended: 'done' });
		expect(search([], []).sought).toMatchObject({ heard: [], ended: 'done' });
	});

	it('finds out who describes itself, where it is asked and where it answers', () => {
		const { sought } = search(computerPorts(3), [
			{ profile: 'selden-marl', out: 2, in: 3 },
			{ profile: 'vellbrook-orrery', out: 1, in: 1 }
		]);
		expect(
			sought.heard.map(({ out, in: back, describes, units }) => [out.id, back.id, describes, units])
		).toEqual([
			['out-1', 'in-1', false, 1],
			['out-2', 'in-3', true, 1]
		]);
	});
});
