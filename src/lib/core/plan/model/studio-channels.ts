import type { Candidate } from '../task';
import { each, type Draft, type Option, type PlanModel } from './draft';
import { Clash, holdLock, kept, keptBlock, options, perDevice } from './options';

/** As much of a draft as channels of the whole studio need. */
type StudioDraft = Pick<Draft, 'task' | 'real' | 'moves' | 'channels'> & {
	model: Pick<PlanModel, 'milp' | 'placed' | 'studioOptions'>;
};

/**
 * Channels that are each there once in the studio, for all that have a place, and for devices on a USB cable of their own.
 * What is counted begins with a move for each of those: what keeps its channels gives it back.
 */
export function studioChannels(draft: StudioDraft): void {
	const { task, model, real, moves } = draft;
	const clash = new Clash(model.milp);
	for (const device of real) {
		if (device.into === null) continue;
		const own = options(draft, device.blocks, device.loose);
		const placed = model.placed.get(device.id)!;
		model.milp.equal([...each(own.map(({ column }) => column)), [placed, -perDevice(device)]], 0);
		holdLock(draft, device, own, placed);
		model.studioOptions.set(device.id, own);
		clash.add('studio', own);
		moves.push([placed, 1], ...kept(draft, device, own));
	}
	for (const device of task.direct) {
		const own = options(draft, device.blocks, []);
		model.milp.equal(each(own.map(({ column }) => column)), 1);
		model.studioOptions.set(device.id, own);
		clash.add('studio', own);
		moves.push(...keptBlock(own, device.present));
	}
	clash.forbid();
}

/**
 * Where a device is in one of these columns, it has no channel that is kept for the host there.
 * @returns the rows that say so
 */
export function keepReserved(
	{ milp, studioOptions }: Pick<PlanModel, 'milp' | 'studioOptions'>,
	device: Candidate,
	reserved: readonly number[],
	there: readonly number[]
): number[] {
	const clashing = studioOptions
		.get(device.id)!
		.filter(({ covers }) => covers.some((channel) => reserved.includes(channel)));
	// Of blocks there is one at most; loose channels are chosen one by one.
	const groups: Option[][] = device.loose.length > 0 ? clashing.map((option) => [option]) : [clashing];
	return groups
		.filter((group) => group.length > 0)
		.map((group) => milp.atMost(each([...there, ...group.map(({ column }) => column)]), 1));
}

/** Channels that a solution gives to a device. */
export const chosenChannels = (own: readonly Option[], values: Float64Array): number[] =>
	own.flatMap(({ covers, column }) => (values[column] > 0.5 ? covers : [])).sort((a, b) => a - b);
