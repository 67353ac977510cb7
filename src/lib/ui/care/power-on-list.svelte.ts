import type { PowerOn, SwitchList } from '../../core/care';
import { Stepped, type SteppedState } from '../stepped.svelte';

export interface PowerOnState extends SteppedState<PowerOn> {
	on: SwitchList;
	off: SwitchList;
	devices: { id: string; name: string; place: string }[];
}

/** The power-on list that is worked on. */
export class PowerOnList extends Stepped<PowerOn, PowerOnState> {
	constructor(opened: PowerOnState) {
		super(() => '/power-on', opened);
	}

	/** Both ways, as the server worked them out with this revision. */
	get lists(): { on: SwitchList; off: SwitchList } {
		return this.now;
	}
	get devices(): PowerOnState['devices'] {
		return this.now.devices;
	}
	/** Places in walking order: those that are noted, then the others by name. */
	get places(): string[] {
		const there = this.devices
			.map(({ place }) => place)
			.filter((place, at, all) => place !== '' && all.indexOf(place) === at)
			.sort((a, b) => a.localeCompare(b));
		const noted = this.document.places.filter((place) => there.includes(place));
		return [...noted, ...there.filter((place) => !noted.includes(place))];
	}

	/** Moves a place one further up or down the walk. */
	movePlace(place: string, by: -1 | 1): Promise<boolean> {
		return this.edit(`${place} ${by < 0 ? 'earlier' : 'later'} in the walk`, () => {
			const places = this.places;
			const at = places.indexOf(place);
			const to = at + by;
			if (at < 0 || to < 0 || to >= places.length) return [];
			const next = places.with(at, places[to]).with(to, place);
			return [{ path: ['places'], value: next }];
		});
	}

	/** Whether somebody switches a device at all. */
	leave(device: string, name: string, left: boolean): Promise<boolean> {
		return this.edit(left ? `Nobody switches ${name}` : `${name} is switched`, (now) => [
			{
				path: ['left'],
				value: left ? [...now.left, device] : now.left.filter((each) => each !== device)
			}
		]);
	}
}
