import type { Milp } from '../milp';
import type { Candidate } from '../task';
import { allOf, each, sameChannels, sumOf, type Draft, type Entry, type Option } from './draft';

/** As much of a draft as channels need. */
type Channelled = Pick<Draft, 'channels'> & { model: { milp: Milp } };

/** Loose channels are chosen one by one, blocks as a whole. */
export const perDevice = (device: Candidate) => (device.loose.length > 0 ? device.parts : 1);

export function options({ model, channels }: Channelled, blocks: number[][], loose: number[]): Option[] {
	return [...blocks, ...loose.map((channel) => [channel])].map((covers) => {
		const column = model.milp.choice();
		channels.push([column, sumOf(covers)]);
		return { covers, column };
	});
}

/** A locked channel is among the loose ones, wherever the device is. */
export function holdLock({ model }: Channelled, device: Candidate, own: Option[], here: number): void {
	if (device.loose.length === 0 || device.lockChannel === null) return;
	const locked = own.find(({ covers }) => covers[0] === device.lockChannel);
	if (locked) model.milp.needs(here, locked.column);
	else model.milp.fix(here, 0);
}

/** What is saved where a block is that of today. */
export const keptBlock = (own: readonly Option[], today: readonly number[]): Entry[] =>
	each(
		own.filter(({ covers }) => sameChannels(covers, today)).map(({ column }) => column),
		-1
	);

/** What is saved where a device keeps today's channels. */
export function kept(draft: Channelled, device: Candidate, own: Option[]): Entry[] {
	const today = device.present.channels;
	if (device.loose.length === 0) return keptBlock(own, today);
	const same = own.filter(({ covers }) => today.includes(covers[0])).map(({ column }) => column);
	return today.length === device.parts && same.length === device.parts ? [[allOf(draft, same), -1]] : [];
}

/** No channel twice within a scope. */
export class Clash {
	readonly #covering = new Map<string, number[]>();
	readonly #milp: Milp;

	constructor(milp: Milp) {
		this.#milp = milp;
	}

	add(scope: string, own: Option[]): void {
		for (const { covers, column } of own)
			for (const channel of covers) {
				const key = `${scope} ${channel}`;
				this.#covering.set(key, [...(this.#covering.get(key) ?? []), column]);
			}
	}

	forbid(): void {
		for (const columns of this.#covering.values()) this.#milp.atMost(each(columns), 1);
	}
}
