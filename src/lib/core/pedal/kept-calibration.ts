import type { Edit } from '../edit';
import type { Floor, KeptCalibration } from './floor';
import { pairingOf } from './pairing';

/** What a calibration was heard through: jack and its setting, cable, pedal. Null where the line is gone. */
function heardThrough(floor: Floor, lineId: string): string | null {
	const line = floor.lines.find(({ id }) => id === lineId);
	const pairing = line ? pairingOf(floor, line) : null;
	if (!line || !pairing) return null;
	const pedals = pairing.pedals.map(({ parts, plug, flipped }) => ({ parts, plug, flipped }));
	const jacks = pairing.jacks.map(({ modes, set, socket }) => ({ modes, set, socket }));
	return JSON.stringify([line.jacks, jacks, pairing.cable, line.pedals, pedals]);
}

/**
 * What becomes of calibrations with a change: one that was heard through something else does not count any more, and what the
 * box sends for it is to be heard anew where it hangs on another jack; a new one has the time at which it was kept.
 * @param at now
 */
export function followCalibrations(before: Floor, after: Floor, at: string): Edit[] {
	const same = (a: KeptCalibration, b: KeptCalibration) => JSON.stringify(a) === JSON.stringify(b);
	const calibrations = after.calibrations.flatMap((calibration): KeptCalibration[] => {
		const old = before.calibrations.some((each) => same(each, calibration));
		if (!old) return [{ ...calibration, at }];
		const [was, is] = [heardThrough(before, calibration.line), heardThrough(after, calibration.line)];
		return was === is ? [calibration] : [];
	});
	const moved = after.lines.flatMap((line, l): Edit[] => {
		const was = before.lines.find(({ id }) => id === line.id);
		const stays = !was || JSON.stringify(was.jacks) === JSON.stringify(line.jacks);
		return stays || line.sends === null || JSON.stringify(was.sends) !== JSON.stringify(line.sends)
			? []
			: [{ path: ['lines', l, 'sends'], value: null }];
	});
	const changed = JSON.stringify(calibrations) !== JSON.stringify(after.calibrations);
	return [...(changed ? [{ path: ['calibrations'], value: calibrations }] : []), ...moved];
}
