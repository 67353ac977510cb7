import {
	areaOf,
	decidersFirst,
	meaningOf,
	writeName,
	putParameter,
	putText,
	writeParameter,
	type Profile,
	type ProfileArea,
	type ProfileRecord,
	type SurfaceMemory
} from '../profile';
import { fromHex } from '../midi';
import { between, pick, type Random } from './random';
import type { UnitState } from './unit';

const FIRST = [
	'Slow',
	'Deep',
	'Pale',
	'Cold',
	'Warm',
	'Dusk',
	'Dawn',
	'Far',
	'Near',
	'Soft',
	'Dark',
	'Glass',
	'Iron',
	'Tidal',
	'Solar',
	'Lunar',
	'Red',
	'Blue',
	'Thin',
	'Wide',
	'Still',
	'Lost',
	'Polar',
	'Twin',
	'Ring',
	'Night',
	'Outer',
	'Inner',
	'Dim',
	'Bright'
];
const SECOND = [
	'Comet',
	'Drift',
	'Halo',
	'Tide',
	'Choir',
	'Bell',
	'Dust',
	'Orbit',
	'Plume',
	'Moon',
	'Star',
	'Shell',
	'Wind',
	'Pulse',
	'Bass',
	'Lead',
	'Pad',
	'Keys',
	'Brass',
	'Reed',
	'Strings',
	'Noise',
	'Swarm',
	'Flare',
	'Arc',
	'Dome',
	'Rain',
	'Echo',
	'Glow',
	'Hum'
];

/** A name of two words that fits the record's field and character set. */
export function inventName(profile: Profile, record: ProfileRecord, random: Random): string {
	const field = record.name!;
	const upper = field.charset !== 'ascii' && !profile.charsets[field.charset].characters.includes('a');
	for (;;) {
		const words =
			field.length < 10
				? pick(random, SECOND) + ' ' + between(random, 1, 9)
				: `${pick(random, FIRST)} ${pick(random, SECOND)}`;
		if (words.length <= field.length) return upper ? words.toUpperCase() : words;
	}
}

function inventRecord(profile: Profile, area: ProfileArea, random: Random): Uint8Array {
	const record = profile.records[area.record];
	let bytes: Uint8Array = new Uint8Array(record.size);
	for (const text of record.texts) putText(profile, text, bytes, '');
	for (const parameter of decidersFirst(record)) {
		const meaning = meaningOf(record, parameter, bytes);
		const [low, high] = meaning.range;
		// Most controls of a made-up sound stay near the middle, as on real ones.
		putParameter(meaning, bytes, Math.round(low + (high - low) * ((random() + random()) / 2)));
	}
	if (profile.surface?.area === area.id) bytes = inventCells(profile, profile.surface, record, bytes);
	if (record.name) putText(profile, record.name, bytes, inventName(profile, record, random));
	return bytes;
}

/** Controllers that mean the same wherever they are understood are left out of a template that means nothing yet. */
const FIRST_CONTROLLER = 14;
/** Controls that stand somewhere: they send where. */
const STANDS = /^(fader|stick|ribbon)/;
/** As many as reach to the channel mode messages. */
const CONTROLLERS = 106;

/** A controller's template as it leaves the works: controllers that count up, on the first channel; long presses do nothing. */
function inventCells(
	profile: Profile,
	{ cells, kinds, ways, pages = [] }: SurfaceMemory,
	record: ProfileRecord,
	bytes: Uint8Array
): Uint8Array {
	const made: Uint8Array = bytes.slice();
	const parameters = new Map(record.parameters.map((parameter) => [parameter.id, parameter]));
	const texts = new Map(record.texts.map((text) => [text.id, text]));
	const prefixes = pages.length === 0 ? [''] : pages.map((page) => `${page}-`);
	prefixes.forEach((prefix, p) =>
		cells.forEach(({ cell, control, gesture }, i) => {
			const set = (field: string, raw: number) => {
				const parameter = parameters.get(`${prefix}${cell}-${field}`);
				if (parameter) putParameter(parameter, made, raw);
			};
			const number = FIRST_CONTROLLER + ((p * cells.length + i) % CONTROLLERS);
			const off = gesture.includes('long') || gesture === 'double';
			set('kind', kinds.indexOf(off ? 'off' : 'cc'));
			const moved = STANDS.test(control)
				? ways.indexOf('absolute')
				: ways.findIndex((way) => way.startsWith('relative'));
			set('way', gesture.includes('move') ? Math.max(0, moved) : ways.indexOf('momentary'));
			set('channel', 0);
			set('number', number);
			set('low', 0);
			set('high', 127);
			set('quick', 1);
			const text = texts.get(`${prefix}${cell}-text`);
			if (text) putText(profile, text, made, off ? '' : `C${number}`);
		})
	);
	return made;
}

/** Models that leave the works with one and the same initial sound in the last slots of an area. */
const INITIAL: Readonly<Record<string, { area: string; slots: number }>> = {
	'harbeck-cairn': { area: 'tones', slots: 10 }
};

/** The firmware of a unit: the first that its profile is for, where that is of a variant. */
function firmwareOf({ variant }: Profile): [number, number] {
	const [major, minor] = variant?.from ? fromHex(variant.from) : [1, 4];
	return [major, minor];
}

/** A new unit as it leaves the works: every slot filled with a made-up sound, or with the initial one. */
export function factoryState(profile: Profile, random: Random): UnitState {
	const memory: UnitState['memory'] = {};
	for (const area of profile.areas)
		memory[area.id] = Array.from({ length: area.slots }, () => inventRecord(profile, area, random));
	const initial = INITIAL[profile.id];
	if (initial) {
		const slots = memory[initial.area];
		const { record } = areaOf(profile, initial.area);
		const first = slots.length - initial.slots;
		const sound = writeName(profile, profile.records[record], slots[first], 'Initial');
		for (let i = first; i < slots.length; i++) slots[i] = sound.slice();
	}
	return { settings: {}, memory, firmware: firmwareOf(profile) };
}

/** Changes one to three parameters of a slot, as somebody who works on a sound does. */
export function tweak(profile: Profile, areaId: string, bytes: Uint8Array, random: Random): Uint8Array {
	const record = profile.records[areaOf(profile, areaId).record];
	let changed = bytes;
	for (let i = between(random, 1, 3); i > 0; i--) {
		const parameter = pick(random, record.parameters);
		const meaning = meaningOf(record, parameter, changed);
		changed = writeParameter(meaning, changed, between(random, ...meaning.range));
	}
	return changed;
}
