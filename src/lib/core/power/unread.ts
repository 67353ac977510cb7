import { drawOf, feedingToday } from './feeding';
import { isBus, type Load, type Output, type Power, type Supply } from './power';

/**
 * What stands on no label yet of what a load is to be fed by, in words: of itself, of what it carries, and, where it hangs
 * somewhere, of that output.
 */
export function unreadOf(power: Power, load: Load, at: { supply: Supply; output: Output } | null): string[] {
	const unread: string[] = [];
	const note = (missing: boolean, what: string) => {
		if (missing) unread.push(what);
	};
	/** On a bus the plug says volts and poles. */
	const socket = at ? !isBus(at.supply) : load.on === 'socket';
	const name = at && `${at.supply.name} ${at.output.name}`;
	if (socket) {
		note(load.volts === null, `volts of ${load.name}`);
		note(load.kind === null, `AC or DC of ${load.name}`);
		note(load.polarity === null && load.kind !== 'AC', `polarity of ${load.name}`);
		if (at) {
			note(at.output.volts.length === 0, `volts of ${name}`);
			note(at.output.kind === null, `AC or DC of ${name}`);
			note(at.output.polarity === null && at.output.kind !== 'AC', `polarity of ${name}`);
		}
	}
	note(load.ma === null, `mA of ${load.name}`);
	note(
		load.ma !== null && drawOf(power, feedingToday(power), load).ma === null,
		`mA of what is plugged in to ${load.name}`
	);
	if (!at) return unread;
	const { supply, output } = at;
	note(output.ma === null && supply.powered !== 'bus', `mA of ${name}`);
	note(supply.is === 'battery' && supply.mah === null, `mAh of ${supply.name}`);
	note(
		output.group !== null && !supply.groups.find(({ id }) => id === output.group)?.ma,
		`what the group of ${name} shares`
	);
	return unread;
}
