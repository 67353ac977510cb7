import { XMLValidator } from 'fast-xml-parser';
import { Problem } from '../problem';
import { nodes, xmlParser, type XmlNode as Node } from '../xml';
import { targetListSchema, type TargetList } from '../profile';

const parser = xmlParser();

/** Every element of a name in a document, wherever it stands, in its order. */
function* all(of: unknown, name: string): Generator<Node> {
	if (typeof of !== 'object' || of === null) return;
	for (const [key, value] of Object.entries(of)) {
		if (key === name) yield* nodes(value);
		for (const node of nodes(value)) yield* all(node, name);
	}
}

/** The document's types of controls, and the largest number and value of each. */
const TYPES: Record<string, { kind: 'cc' | 'cc-14' | 'rpn' | 'nrpn'; most: number; high: number }> = {
	'7bit': { kind: 'cc', most: 127, high: 127 },
	'14bit': { kind: 'cc-14', most: 31, high: 16383 },
	rpn: { kind: 'rpn', most: 16382, high: 16383 },
	nrpn: { kind: 'nrpn', most: 16382, high: 16383 }
};

/** A whole number of an attribute; null where it is none. */
function whole(of: unknown): number | null {
	const value = typeof of === 'string' && of.trim() !== '' ? Number(of) : NaN;
	return Number.isInteger(value) ? value : null;
}

/** Channels for which a set of names is said to be available; empty where it does not say. */
function channelsOf(set: Node): number[] {
	return [...all(set, 'AvailableChannel')]
		.filter((channel) => String(channel['@Available']).toLowerCase() === 'true')
		.flatMap((channel) => whole(channel['@Channel']) ?? [])
		.filter((channel) => channel >= 1 && channel <= 16);
}

/**
 * The controls that a MIDI name document lists (MIDINameDocument 1.0, `ControlNameList`), each list as targets of its own.
 * @returns the lists, and the controls that were left out, in words
 * @throws Problem `targets.not-xml`, `xml.unreadable`, `targets.no-controls`
 */
export function targetsOfNameDocument(text: string): { lists: TargetList[]; left: string[] } {
	if (XMLValidator.validate(text) !== true)
		throw new Problem('targets.not-xml', 'This is no MIDI name document.', 'Choose a .midnam file.');
	const document = parser.parse(text);
	const left: string[] = [];
	const lists = [...all(document, 'ControlNameList')].map((list, n) => {
		const name = String(list['@Name'] ?? '').trim() || `Controls ${n + 1}`;
		const sets = [...all(document, 'ChannelNameSet')].filter(
			(set) =>
				[...all(set, 'UsesControlNameList')].some((uses) => uses['@Name'] === list['@Name']) ||
				nodes(set.ControlNameList).includes(list)
		);
		const seen = new Set<string>();
		const targets = nodes(list.Control).flatMap((control) => {
			const type = TYPES[String(control['@Type'] ?? '7bit').toLowerCase()];
			const number = whole(control['@Number']);
			const called = String(control['@Name'] ?? '').trim();
			const values = nodes(control.Values)[0];
			const low = whole(values?.['@Min']) ?? 0;
			const high = whole(values?.['@Max']) ?? type?.high ?? 127;
			const words = `${called || 'A control without a name'} (${String(control['@Type'] ?? '7bit')} ${String(control['@Number'])})`;
			const key = `${type?.kind} ${number}`;
			const why =
				type === undefined
					? 'its type is not known'
					: number === null || number < 0 || number > type.most
						? 'its number is out of range'
						: low < 0 || high > type.high || low >= high
							? 'its values are out of range'
							: seen.has(key)
								? 'it is there twice'
								: null;
			if (why !== null) {
				left.push(`${words}: ${why}`);
				return [];
			}
			seen.add(key);
			const named = [...all(values, 'Value')].length;
			return [
				{
					id: key.replace(' ', '-'),
					name: called || key,
					address: { kind: type.kind, number: number! },
					low,
					high,
					unit: String(values?.['@Units'] ?? '').slice(0, 16),
					switch: named === 2,
					...(whole(values?.['@Default']) === null ? {} : { default: whole(values?.['@Default'])! })
				}
			];
		});
		return targetListSchema.parse({
			format: 'silent-drawer.targets',
			version: 1,
			id: `midnam-${n + 1}`,
			name: name.slice(0, 80),
			channels: [...new Set(sets.flatMap(channelsOf))].sort((a, b) => a - b),
			targets
		});
	});
	if (lists.length === 0)
		throw new Problem(
			'targets.no-controls',
			'This document names no controls.',
			'It may name programs: take it to a bank. Controls can be written as a table instead.'
		);
	return { lists, left };
}
