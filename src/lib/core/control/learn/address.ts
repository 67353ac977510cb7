import type { Address } from '../../profile';
import { classify, type HeardControl, type HeardMessage } from '../stream';

/** By what a control is known: two that speak alike are one to whoever listens. */
export interface SpokenAddress {
	family: 'controller' | 'rpn' | 'nrpn' | 'note' | 'pressure' | 'wheel' | 'program' | 'sysex';
	channel: number | null;
	number: number | null;
}

const FAMILY: Record<HeardControl['kind'], SpokenAddress['family']> = {
	absolute: 'controller',
	'absolute-14': 'controller',
	relative: 'controller',
	momentary: 'controller',
	toggle: 'controller',
	nrpn: 'nrpn',
	rpn: 'rpn',
	note: 'note',
	'channel-pressure': 'pressure',
	'key-pressure': 'pressure',
	'pitch-bend': 'wheel',
	'program-change': 'program',
	sysex: 'sysex'
};

export const addressOf = ({
	kind,
	channel,
	number
}: Pick<HeardControl, 'kind' | 'channel' | 'number'>): SpokenAddress => ({
	family: FAMILY[kind],
	channel,
	number
});

export const sameAddress = (a: SpokenAddress, b: SpokenAddress): boolean =>
	a.family === b.family && a.channel === b.channel && a.number === b.number;

/** What is heard where a target is told. */
export function spokenFor(address: Address, channel: number): SpokenAddress {
	switch (address.kind) {
		case 'cc':
		case 'cc-14':
			return { family: 'controller', channel, number: address.number };
		case 'rpn':
		case 'nrpn':
		case 'note':
			return { family: address.kind, channel, number: address.number };
		case 'program-change':
			return { family: 'program', channel, number: null };
		case 'pitch-bend':
			return { family: 'wheel', channel, number: null };
		case 'channel-pressure':
			return { family: 'pressure', channel, number: null };
		case 'sysex':
			return { family: 'sysex', channel: null, number: null };
	}
}

/** An address as people say it. */
export function addressWords({ family, channel, number }: SpokenAddress): string {
	const on = channel === null ? '' : ` on channel ${channel}`;
	switch (family) {
		case 'controller':
			return `controller ${number}${on}`;
		case 'rpn':
		case 'nrpn':
			return `${family.toUpperCase()} ${number}${on}`;
		case 'note':
			return `note ${number}${on}`;
		case 'pressure':
			return number === null ? `channel pressure${on}` : `pressure of key ${number}${on}`;
		case 'wheel':
			return `pitch bend${on}`;
		case 'program':
			return `program change${on}`;
		case 'sysex':
			return 'system exclusive';
	}
}

/** The same in as few characters as a strip has room for. */
export function addressShort(address: SpokenAddress): string {
	const on = address.channel === null ? '' : ` ch ${address.channel}`;
	return address.family === 'controller'
		? `CC ${address.number}${on}`
		: addressWords(address).replace(/ on channel (\d+)$/, ' ch $1');
}

/**
 * Who spoke in a burst: messages with no rest between them. A pad that tells its pressure, too, is known by its note.
 * @returns the addresses in order of appearance
 */
export function speakersOf(burst: readonly HeardMessage[]): SpokenAddress[] {
	const found = classify(burst).map(addressOf);
	return found.filter(
		(address) =>
			address.family !== 'pressure' ||
			!found.some(({ family, channel }) => family === 'note' && channel === address.channel)
	);
}
