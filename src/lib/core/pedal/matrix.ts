import { bestCable, modeWords, type BestPairing } from './cures';
import type { Floor, Jack, Pedal } from './floor';
import { judge, VERDICTS } from './verdict';

/** A jack, set in one of its ways, and a pedal: what they come to. */
export interface MatrixCell extends BestPairing {
	/** In which of its modes, in words; empty where it has one. */
	mode: string;
	modeId: string;
	/** With the jack set as it is today, and a plain cable. */
	today: BestPairing;
}

export interface MatrixRow {
	box: string;
	jack: Jack;
	/** One for each pedal of the floor. */
	cells: MatrixCell[];
}

/** With the settings of each mode tried, too: what can be set at the box is no reason to say no. */
function cellOf(jack: Jack, pedal: Pedal): MatrixCell {
	const best = jack.modes
		.flatMap((mode) => {
			const rests = mode.rest === 'set' ? (['open', 'closed'] as const) : ([jack.set.rest] as const);
			const turns = mode.takes === 'expression' && mode.reverses ? [false, true] : [jack.set.reversed];
			return rests.flatMap((rest) =>
				turns.map((reversed) => ({
					mode,
					best: bestCable({
						jacks: [{ ...jack, set: { ...jack.set, mode: mode.id, rest, reversed } }],
						pedals: [pedal]
					})
				}))
			);
		})
		.reduce((a, b) => (rank(b.best) < rank(a.best) ? b : a));
	return {
		...best.best,
		modeId: best.mode.id,
		mode: jack.modes.length > 1 ? modeWords(best.mode.takes, best.mode.wiper) : '',
		today: plain(jack, pedal)
	};
}

/** A plain cable: three contacts where both ends have them. */
function plain(jack: Jack, pedal: Pedal): BestPairing {
	const cable = pedal.plug.startsWith('own')
		? null
		: jack.socket === 'trs' && pedal.plug === 'socket-trs'
			? 'trs'
			: 'ts';
	return { cable, verdict: judge({ jacks: [jack], cable, pedals: [pedal] }) };
}

const rank = ({ verdict }: BestPairing) => VERDICTS.indexOf(verdict.kind) + (verdict.sure ? 0 : 0.5);

/** Every pedal of a floor at every jack: at its best. */
export const matrixOf = (floor: Floor): MatrixRow[] =>
	floor.boxes.flatMap((box) =>
		box.jacks.map((jack) => ({
			box: box.name,
			jack,
			cells: floor.pedals.map((pedal) => cellOf(jack, pedal))
		}))
	);
