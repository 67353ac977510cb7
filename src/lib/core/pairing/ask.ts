import {
	CONDITIONS,
	folded,
	knownWords,
	PAIRING_WAYS,
	type ConditionKind,
	type PairedModel,
	type PairingRecord,
	type Pairings
} from './pairing';

/** A device of one's own, as far as pairings go. */
export interface PairedDevice {
	id: string;
	name: string;
	maker: string;
	model: string;
	firmware: string;
}

export const sameModel = (a: PairedModel, b: PairedModel): boolean =>
	folded(a.maker) === folded(b.maker) && folded(a.model) === folded(b.model);
/** Of the same maker, with a name that begins alike: what is known of one says nothing of the other. */
export const sisterModel = (a: PairedModel, b: PairedModel): boolean =>
	!sameModel(a, b) &&
	folded(a.maker) === folded(b.maker) &&
	folded(a.model).split(' ')[0] === folded(b.model).split(' ')[0];

/** Versions by their numbers: 1.10 is after 1.9. @returns null where either has none */
export function compareVersions(a: string, b: string): number | null {
	const [x, y] = [a, b].map((text) => text.match(/\d+/g)?.map(Number) ?? null);
	if (!x || !y) return null;
	for (let i = 0; i < Math.max(x.length, y.length); i++) {
		const difference = (x[i] ?? 0) - (y[i] ?? 0);
		if (difference !== 0) return Math.sign(difference);
	}
	return 0;
}

/** Whether a firmware is as a condition wants it; null where that cannot be told. */
function firmwareIs(firmware: string, wanted: string): boolean | null {
	const [, sign, version] = /^\s*(>=|≥|<=|≤|=)?\s*(.*)$/.exec(wanted)!;
	const order = firmware.trim() === '' ? null : compareVersions(firmware, version);
	if (order === null) return null;
	if (sign === '>=' || sign === '≥') return order >= 0;
	return sign === '<=' || sign === '≤' ? order <= 0 : order === 0;
}

/** Something that would have to be true. */
export interface Needed {
	says: string;
	/** `no`: it is known not to be so; `unknown`: nobody noted it; `hand`: a hand sees to it. */
	is: 'no' | 'unknown' | 'hand';
}

const firmwareOf = (what: ConditionKind, from: PairedDevice, to: PairedDevice): PairedDevice | null =>
	what === 'from-firmware' ? from : what === 'to-firmware' ? to : null;

/** What of a record's conditions is not known to hold for two devices. */
export function neededFor(record: PairingRecord, from: PairedDevice, to: PairedDevice): Needed[] {
	const conditions = record.conditions.flatMap(({ what, is }): Needed[] => {
		const device = firmwareOf(what, from, to);
		if (!device) return [{ says: `${CONDITIONS[what]}: ${is}`, is: 'hand' }];
		const holds = firmwareIs(device.firmware, is);
		if (holds) return [];
		return [
			{
				says: `${device.name} has firmware ${is}${holds === false ? ` (it has ${device.firmware})` : ' (nobody noted which it has)'}`,
				is: holds === false ? 'no' : 'unknown'
			}
		];
	});
	// What was tried with another firmware was not tried with this one.
	const tried = (
		[
			['from-firmware', record.known.fromFirmware],
			['to-firmware', record.known.toFirmware]
		] as const
	).flatMap(([what, was]): Needed[] => {
		const device = firmwareOf(what, from, to)!;
		if (record.known.by !== 'tried' || !was || folded(device.firmware) === folded(was)) return [];
		return [
			{
				says: `it is so with the firmware that ${device.name} has${device.firmware ? ` (${device.firmware})` : ''}, too: it was tried with ${was}`,
				is: 'unknown'
			}
		];
	});
	return [...conditions, ...tried];
}

/** What is known of one device of one's own, asked for something. */
export interface Answer {
	device: PairedDevice;
	/**
	 * `works` and `limits`: nothing is known to stand against it; `not now`: something that would have to be true is not;
	 * `not`: it does not; `unknown`: nobody tried or read it.
	 */
	is: 'works' | 'limits' | 'not now' | 'not' | 'unknown';
	record: PairingRecord | null;
	needed: Needed[];
	says: string;
}

const RANK: Record<Answer['is'], number> = { works: 0, limits: 1, 'not now': 2, unknown: 3, not: 4 };

function answerOf(
	records: readonly PairingRecord[],
	from: PairedDevice,
	to: PairedDevice,
	does: string
): Answer {
	const asked = records.filter((record) => folded(record.does) === folded(does));
	const mine = asked.filter((record) => sameModel(record.from, from) && sameModel(record.to, to));
	const answers = mine.map((record): Answer => {
		const needed = neededFor(record, from, to);
		const is =
			record.result === 'not' ? 'not' : needed.some((each) => each.is === 'no') ? 'not now' : record.result;
		const limits =
			record.result === 'limits' ? `, within limits: ${record.limit || 'which, nobody noted'}` : '';
		return {
			device: from,
			is,
			record,
			needed: record.result === 'not' ? [] : needed,
			says: `${record.result === 'not' ? 'Does not work' : `Works${limits}`} by ${PAIRING_WAYS[record.way]}, ${knownWords(record)}.`
		};
	});
	if (answers.length > 0) return answers.reduce((a, b) => (RANK[b.is] < RANK[a.is] ? b : a));
	const sister = asked.find(
		(record) =>
			(sisterModel(record.from, from) || sameModel(record.from, from)) &&
			(sisterModel(record.to, to) || sameModel(record.to, to))
	);
	return {
		device: from,
		is: 'unknown',
		record: null,
		needed: [],
		says: sister
			? `Known only of the ${sister.from.model} with the ${sister.to.model}: a sister model is not the model.`
			: 'Nobody has tried or read it.'
	};
}

/** What of mine can do something with a device: what is known to work first, and nothing claimed of what was not tried. */
export const whoCan = (
	{ records }: Pairings,
	devices: readonly PairedDevice[],
	to: PairedDevice,
	does: string
): Answer[] =>
	devices
		.filter(({ id }) => id !== to.id)
		.map((from) => answerOf(records, from, to, does))
		.sort((a, b) => RANK[a.is] - RANK[b.is] || a.device.name.localeCompare(b.device.name));

/** Every device of mine with every other one: who can do something with whom. */
export const pairingMatrix = (
	pairings: Pairings,
	devices: readonly PairedDevice[],
	does: string
): Answer[][] =>
	devices.map((to) =>
		devices.flatMap((from) => (from.id === to.id ? [] : [answerOf(pairings.records, from, to, does)]))
	);
