import { textFields } from '../claims';
import type { Profile } from '../schema';
import type { Fault } from './fault';

/** Parts of a message that version 1 of the language has. */
const OLD_PARTS = ['bytes', 'variable', 'body', 'checksum'];
/** What a parameter says of itself in version 2 alone. */
const NEW_VALUES = ['digits', 'coded', 'curve', 'points', 'named', 'flags', 'when'] as const;
const OLD_VARIABLES = ['deviceId', 'channel', 'slot'];

/** What a profile of version 1 says in words that only version 2 has: an older program would refuse it. */
export function newerWords(profile: Profile): Fault[] {
	if (profile.version !== 1) return [];
	const found: (string | number)[][] = [];
	for (const word of ['about', 'tried', 'variant'] as const) if (profile[word]) found.push([word]);
	for (const [id, { shifts }] of Object.entries(profile.charsets))
		if (shifts) found.push(['charsets', id, 'shifts']);
	profile.areas.forEach((area, i) => {
		if (area.playing?.tells || (area.playing && !area.playing.ask)) found.push(['areas', i, 'playing']);
		for (const word of ['addresses', 'called', 'told', 'described'] as const)
			if (area[word]) found.push(['areas', i, word]);
	});
	for (const [id, record] of Object.entries(profile.records)) {
		for (const word of ['sections', 'references'] as const)
			if (record[word]) found.push(['records', id, word]);
		for (const text of textFields(record))
			if (text.bitsEach || text.then || text.order)
				found.push(['records', id, text === record.name ? 'name' : 'texts']);
		record.parameters.forEach((parameter, i) => {
			const path = ['records', id, 'parameters', i];
			for (const word of NEW_VALUES) if (parameter[word] !== undefined) found.push([...path, word]);
			if (parameter.range[0] < 0) found.push([...path, 'range']);
		});
	}
	for (const [id, { parts }] of Object.entries(profile.messages))
		parts.forEach((part, i) => {
			const path = ['messages', id, 'parts', i];
			if (!OLD_PARTS.includes(part.part)) found.push(path);
			else if (
				part.part === 'variable' &&
				(!OLD_VARIABLES.includes(part.variable) || part.width > 2 || part.order || part.digits || part.modulo)
			)
				found.push(path);
			else if (part.part === 'body' && part.eachSum !== undefined) found.push([...path, 'eachSum']);
			else if (part.part === 'checksum' && (part.over || typeof part.checksum !== 'string'))
				found.push([...path, 'checksum']);
		});
	profile.capture.forEach((way, i) => {
		if (typeof way.expect !== 'string') found.push(['capture', i, 'expect']);
		for (const word of ['covers', 'most', 'says', 'stop', 'cancel', 'total'] as const)
			if (way[word] !== undefined) found.push(['capture', i, word]);
		if (way.confirm?.each) found.push(['capture', i, 'confirm', 'each']);
	});
	profile.restore.forEach((way, i) => {
		if (typeof way.send !== 'string') found.push(['restore', i, 'send']);
		for (const word of ['most', 'begin', 'end', 'cancel', 'total', 'together'] as const)
			if (way[word] !== undefined) found.push(['restore', i, word]);
		if (way.replies?.names || way.replies?.busyMs) found.push(['restore', i, 'replies']);
	});
	return found.map((path) => ({ path, says: 'this needs “version”: 2' }));
}
