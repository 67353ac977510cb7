import { bestCable, modeWords, type BestPairing } from './cures';
import { modeOf, type Floor, type Jack, type Pedal } from './floor';
import { judge, VERDICTS } from './verdict';

/** A jack, set in the best of its ways, and a pedal: what they come to. */
export interface MatrixCell extends BestPairing {
	/** In which of its modes, in words; empty where it has one. */
	mode: string;
	/** With the jack set as it is today, and a plain cable. */
	today: BestPairing;
}

export interface MatrixRow {
	box: string;
	jack: string;
	/** One for each pedal of the floor. */
	cells: MatrixCell[];
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

/** With everything tried that can be set at the box: what a menu mends is no reason to say no. */
function cellOf(jack: Jack, pedal: Pedal): MatrixCell {
	const ways = jack.modes.flatMap((mode) => {
		const rests = mode.rest === 'set' ? (['open', 'closed'] as const) : ([jack.set.rest] as const);
		const turns = mode.takes === 'expression' && mode.reverses ? [false, true] : [jack.set.reversed];
		return rests.flatMap((rest) =>
			turns.map((reversed) => ({ ...jack, set: { ...jack.set, mode: mode.id, rest, reversed } }))
		);
	});
	const { way, best } = ways
		.map((way) => ({ way, best: bestCable({ jacks: [way], pedals: [pedal] }) }))
		.reduce((a, b) => (rank(b.best) < rank(a.best) ? b : a));
	const mode = modeOf(way);
	return {
		...best,
		mode: jack.modes.length > 1 ? modeWords(mode.takes, mode.wiper) : '',
		today: plain(jack, pedal)
	};
}

/** Every pedal of a floor at every jack: at its best. What is alike but for its name is worked out once. */
export function matrixOf(floor: Floor): MatrixRow[] {
	const known = new Map<string, MatrixCell>();
	const alike = (jack: Jack, pedal: Pedal) =>
		JSON.stringify([
			{ ...jack, id: '', name: '' },
			{ ...pedal, id: '', name: '', note: '', bench: null }
		]);
	return floor.boxes.flatMap((box) =>
		box.jacks.map((jack) => ({
			box: box.name,
			jack: jack.name,
			cells: floor.pedals.map((pedal) => {
				const key = alike(jack, pedal);
				const cell = known.get(key) ?? cellOf(jack, pedal);
				known.set(key, cell);
				return cell;
			})
		}))
	);
}
