import type { HeardMessage } from '../stream';
import { addressWords, sameAddress, speakersOf, type SpokenAddress } from './address';

/** A control with what it is taken to say. */
export interface Walked {
	control: string;
	name: string;
	address: SpokenAddress;
	/** In how many bursts it spoke. */
	spoke: number;
}

/** Each control is touched once more, in any order. */
export interface Walk {
	controls: readonly Walked[];
	/** What was heard and is nobody's. */
	strangers: readonly SpokenAddress[];
	/** Who spoke last. */
	last: string | null;
}

export const beginWalk = (controls: readonly Omit<Walked, 'spoke'>[]): Walk => ({
	controls: controls.map((each) => ({ ...each, spoke: 0 })),
	strangers: [],
	last: null
});

/**
 * What a burst does to a walk. One control may go on speaking (a knob that is turned in two goes): it has spoken twice
 * only if another one spoke in between.
 */
export function walkBurst(walk: Walk, burst: readonly HeardMessage[]): Walk {
	return speakersOf(burst).reduce((now, address) => {
		const at = now.controls.findIndex((each) => sameAddress(each.address, address));
		if (at < 0)
			return {
				...now,
				strangers: now.strangers.some((each) => sameAddress(each, address))
					? now.strangers
					: [...now.strangers, address],
				last: null
			};
		const { control } = now.controls[at];
		if (control === now.last) return now;
		return {
			...now,
			controls: now.controls.map((each, i) => (i === at ? { ...each, spoke: each.spoke + 1 } : each)),
			last: control
		};
	}, walk);
}

export type Tick = 'spoke' | 'open' | 'twice';
export const tickOf = ({ spoke }: Walked): Tick => (spoke === 0 ? 'open' : spoke === 1 ? 'spoke' : 'twice');

/** How a walk ended: walked, or what is to be looked at, in words. */
export interface WalkEnd {
	/** Every control spoke once, for itself, and nobody else did. */
	walked: boolean;
	faults: string[];
}

/** A walk is done when all spoke once. Where one never spoke and one spoke twice, the one spoke for the other. */
export function endOf({ controls, strangers }: Walk): WalkEnd {
	const open = controls.filter((each) => tickOf(each) === 'open');
	const twice = controls.filter((each) => tickOf(each) === 'twice');
	const faults: string[] = [];
	if (open.length === 1 && twice.length === 1 && strangers.length === 0)
		faults.push(
			`${open[0].name} was never heard, and ${twice[0].name} twice: very likely ${open[0].name} speaks for ${twice[0].name} (${addressWords(twice[0].address)}).`
		);
	else {
		for (const { name } of open) faults.push(`${name} was never heard.`);
		for (const { name, spoke } of twice)
			faults.push(`${name} was heard ${spoke} times, with others in between.`);
	}
	for (const address of strangers)
		faults.push(`Nothing in the map is ${addressWords(address)}, and it was heard.`);
	return { walked: faults.length === 0, faults };
}
