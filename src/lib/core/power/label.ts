import { loadSchema, type Load, type Polarity } from './power';

/** What a label says, as far as it is understood; null for what it does not say. */
export type Label = Pick<Load, 'volts' | 'kind' | 'polarity' | 'ma'>;

const NUMBER = String.raw`(\d+(?:[.,]\d+)?)`;
const read = (text: string): number => Number(text.replace(',', '.'));

/**
 * Reads what somebody wrote off a label, such as “9–12 V DC, centre negative, 120 mA”. Only what is there is taken; two
 * different currents, or a current of outputs (“200 mA each”), are none.
 */
export function readLabel(text: string): Label {
	const volts = new RegExp(
		`${NUMBER}(?:\\s*(?:–|-|to)\\s*${NUMBER})?\\s*V(?![A-Za-z])(?:\\s*(DC|AC))?`,
		'i'
	).exec(text);
	const currents = [...text.matchAll(new RegExp(`${NUMBER}\\s*(m?)A(?![A-Za-z])`, 'gi'))].map(
		([, value, milli]) => Math.round(read(value) * (milli ? 1 : 1000))
	);
	const kind = /\bAC\b/i.test(text) === /\bDC\b/i.test(text) ? null : /\bAC\b/i.test(text) ? 'AC' : 'DC';
	const centre = /cent(?:re|er)[\s-]*(negative|positive)/i.exec(text)?.[1].toLowerCase() ?? null;
	const low = volts ? read(volts[1]) : null;
	return {
		volts: low === null ? null : [low, volts?.[2] ? read(volts[2]) : low],
		kind,
		polarity: kind === 'AC' ? 'none' : (centre as Polarity | null),
		ma: new Set(currents).size === 1 && !/\beach\b/i.test(text) ? currents[0] : null
	};
}

/** A device of the catalogue as a load: what its line on power says, and no more. */
export const loadOfDevice = (device: { id: string; name: string; power: string }, id: string): Load =>
	loadSchema.parse({ id, name: device.name, device: device.id, ...readLabel(device.power) });
