import type { Edit } from '../edit';
import type { ControlMap } from './map';
import type { Gesture, SurfaceControl } from './surface';

export type HostButton = ControlMap['host']['buttons'][number];
export type HostStep = ControlMap['host']['recipe'][number];

/** A button of a surface, as it is pressed, and what is known of it in the host. */
export interface HostRow {
	control: SurfaceControl;
	gesture: Gesture;
	/** Null where nothing was noted. */
	noted: HostButton | null;
	/** Tried with the version that the host has now, with another one, or not. */
	state: 'tried' | 'other version' | 'untried';
}

/** Every way to press a button, in the order of the surface. */
export const hostRows = ({ surface, host }: Pick<ControlMap, 'surface' | 'host'>): HostRow[] =>
	surface.controls
		.filter(({ kind }) => kind === 'button')
		.flatMap((control) =>
			control.gestures
				.filter((gesture) => !gesture.endsWith('move'))
				.map((gesture): HostRow => {
					const noted =
						host.buttons.find((each) => each.control === control.id && each.gesture === gesture) ?? null;
					const tried = noted?.tried;
					return {
						control,
						gesture,
						noted,
						state: !tried ? 'untried' : tried.version === host.version ? 'tried' : 'other version'
					};
				})
		);

/** The edits that note something of a button; another word of what it does has to be tried again. */
export function noteButton(
	{ host }: Pick<ControlMap, 'host'>,
	{ control, gesture }: Pick<HostButton, 'control' | 'gesture'>,
	more: Partial<HostButton>
): Edit[] {
	const at = host.buttons.findIndex((each) => each.control === control && each.gesture === gesture);
	const was: HostButton = host.buttons[at] ?? { control, gesture, does: '', remark: '', tried: null };
	const untried = more.does !== undefined && more.does !== was.does && more.tried === undefined;
	return [
		{
			path: ['host', 'buttons', at < 0 ? host.buttons.length : at],
			value: { ...was, ...more, ...(untried ? { tried: null } : {}) }
		}
	];
}

/**
 * What the lines of a map come to, as a short word that another map does not have (FNV-1a, 32 bits): a tick was made of it.
 * Names on displays and walks are not part of it.
 */
export function mapMark({ surface, globals, pages, hosted }: ControlMap): string {
	const text = JSON.stringify([surface.id, globals, pages.map(({ name: _name, ...rest }) => rest), hosted]);
	let hash = 0x811c9dc5;
	for (const sign of text) hash = Math.imul(hash ^ sign.codePointAt(0)!, 0x01000193);
	return (hash >>> 0).toString(16).padStart(8, '0');
}

/** How a step of the recipe stands: done for this map and version, done before one of them changed, or not. */
export function stepState(
	map: ControlMap,
	{ ticked }: HostStep
): 'done' | 'map changed' | 'other version' | 'open' {
	if (!ticked) return 'open';
	if (ticked.version !== map.host.version) return 'other version';
	return ticked.of === mapMark(map) ? 'done' : 'map changed';
}
