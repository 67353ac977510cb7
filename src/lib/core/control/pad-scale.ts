import { applyEdits, type Edit } from '../edit';
import type { Assignment, ControlMap } from './map';
import { padsInScale, type ScaleLayout, type ScalePad } from './scales';
import type { SurfaceControl } from './surface';
import { meantBy } from './target-words';
import { writeLine, written } from './written';

/** Pads by rows, the lowest first, each from the left. */
export function padRows({ surface }: Pick<ControlMap, 'surface'>): SurfaceControl[][] {
	const pads = surface.controls.filter(({ kind, sends }) => kind === 'pad' && sends.includes('note'));
	const heights = [...new Set(pads.map(({ y }) => y))].sort((a, b) => b - a);
	return heights.map((y) => pads.filter((pad) => pad.y === y).sort((a, b) => a.x - b.x));
}

/** What a scale on the pads of a page comes to. */
export interface PadScale {
	/** Each pad with its note, the lowest row first; null where the scale leaves the range of notes. */
	pads: { control: SurfaceControl; pad: ScalePad }[];
	edits: Edit[];
	/** Names of the pads that have no note, and do nothing on purpose. */
	silent: string[];
}

/**
 * Puts the notes of a scale on the pads of a page, so that every pad is in key, and names each as the key writes it.
 * @throws Problem `scale.formula`, `scale.key`
 */
export function scaleOnPads(
	map: ControlMap,
	page: number,
	layout: Omit<ScaleLayout, 'rows' | 'columns'>,
	channel: number
): PadScale {
	const rows = padRows(map);
	const columns = Math.max(0, ...rows.map((row) => row.length));
	const notes = padsInScale({ ...layout, rows: rows.length, columns });
	const pads = rows.flatMap((row, r) => row.map((control, c) => ({ control, pad: notes[r * columns + c] })));
	let now = map;
	const edits: Edit[] = [];
	const make = (more: Edit[]) => {
		edits.push(...more);
		now = applyEdits(now, more);
	};
	for (const { control, pad } of pads) {
		const line = { page, control: control.id, gesture: control.gestures[0] };
		make(writeLine(now, line, meantBy(now, pad.note === null ? '—' : `note ${pad.note} ch ${channel}`)));
		const at = written(now, line);
		if (!at || pad.note === null) continue;
		const value: Assignment = { ...at.assignment, way: 'momentary', name: pad.name };
		make([{ path: at.path, value }]);
	}
	return {
		pads,
		edits,
		silent: pads.filter(({ pad }) => pad.note === null).map(({ control }) => control.name)
	};
}
