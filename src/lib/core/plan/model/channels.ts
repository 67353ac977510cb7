import type { Candidate, PlanTask } from '../task';
import { each, sameChannels, sumOf, type Draft } from './draft';
import { Clash, holdLock, kept, options, perDevice } from './options';
import { keepReserved, studioChannels } from './studio-channels';

/** The most devices that can hang on one out: levels of a chain, each as wide as the thru sockets above it allow. */
export function crowd(task: PlanTask): number {
	if (task.policy === 'port-per-instrument') return 1;
	const widest = Math.max(0, ...task.devices.map(({ thrus }) => thrus.length));
	let level = 1;
	let sum = 0;
	for (let hop = 0; hop < task.chain; hop++) {
		sum += level;
		level *= widest;
	}
	return Math.min(sum, task.devices.length);
}

/**
 * Blocks worth considering on an out: today's, and as many of the lowest as cannot all be taken by the others.
 * Whoever sat higher could move down into one of these: no clash, no more moves, a smaller sum.
 */
export function worthwhile(
	device: Candidate,
	others: readonly Candidate[],
	reserved: readonly number[],
	most: number
): number[][] {
	const inTheWay = others
		// Parts that follow one another block the least; loose ones lie wherever they are in the way.
		.map(({ parts, loose }) => (loose.length > 0 ? parts * device.parts : parts + device.parts - 1))
		.sort((a, b) => b - a)
		.slice(0, Math.max(0, most - 1))
		.reduce((sum, blocked) => sum + blocked, 0);
	return device.blocks
		.filter((block) => !block.some((channel) => reserved.includes(channel)))
		.filter((block, i) => i <= inTheWay || sameChannels(block, device.present.channels));
}

/** Channels of a device that is alone: today's if they can stay, else the lowest. `null` when none are allowed. */
export function bestAlone(device: Candidate, reserved: readonly number[]): number[] | null {
	const today = device.present.channels;
	if (device.loose.length > 0) {
		const able = device.loose.filter((channel) => !reserved.includes(channel));
		const { lockChannel } = device;
		if (able.length < device.parts || (lockChannel !== null && able[0] !== lockChannel)) return null;
		const stays = today.length === device.parts && today.every((channel) => able.includes(channel));
		return stays && (lockChannel === null || today[0] === lockChannel) ? today : able.slice(0, device.parts);
	}
	const able = device.blocks.filter((block) => !block.some((channel) => reserved.includes(channel)));
	return able.find((block) => sameChannels(block, today)) ?? able[0] ?? null;
}

/** Channels by the policy: any on a port of one's own, each once on a port, or each once in the studio. */
export function giveChannels(draft: Draft): void {
	const listening = draft.real.filter(({ into }) => into !== null);
	if (draft.task.policy === 'port-per-instrument') for (const device of listening) alone(draft, device);
	else if (draft.task.policy === 'shared-ports') onePort(draft, listening);
	else wholeStudio(draft, listening);
}

function wholeStudio(draft: Draft, listening: Candidate[]): void {
	studioChannels(draft);
	for (const device of listening)
		for (const { out, here } of draft.model.seats.get(device.id)!)
			keepReserved(draft.model, device, out.reserved, [here]);
}

function alone({ model, channels, moves }: Draft, device: Candidate): void {
	for (const { out, here } of model.seats.get(device.id)!) {
		const block = bestAlone(device, out.reserved);
		if (!block) {
			model.milp.fix(here, 0);
			continue;
		}
		channels.push([here, sumOf(block)]);
		if (!sameChannels(block, device.present.channels)) moves.push([here, 1]);
	}
}

function onePort(draft: Draft, listening: Candidate[]): void {
	const { task, model, moves } = draft;
	const most = crowd(task);
	const clash = new Clash(draft.model.milp);
	for (const device of listening) {
		const others = listening.filter((other) => other !== device);
		for (const seat of model.seats.get(device.id)!) {
			const { reserved } = seat.out;
			seat.options = options(
				draft,
				worthwhile(device, others, reserved, most),
				device.loose.filter((channel) => !reserved.includes(channel))
			);
			model.milp.equal(
				[...each(seat.options.map(({ column }) => column)), [seat.here, -perDevice(device)]],
				0
			);
			holdLock(draft, device, seat.options, seat.here);
			if (seat.options.length === 0) model.milp.fix(seat.here, 0);
			clash.add(seat.out.id, seat.options);
			moves.push([seat.here, 1], ...kept(draft, device, seat.options));
		}
	}
	clash.forbid();
}
