import { toHex } from './bytes';

const REAL_TIME: Record<number, string> = {
	0xf8: 'Clock',
	0xfa: 'Start',
	0xfb: 'Continue',
	0xfc: 'Stop',
	0xfe: 'Active sensing',
	0xff: 'System reset'
};
const COMMON: Record<number, string> = {
	0xf1: 'Time code quarter frame',
	0xf2: 'Song position',
	0xf3: 'Song select',
	0xf6: 'Tune request'
};

/** A few words on a channel, system-common or real-time message; channels count from 1. */
export function describeMessage(bytes: Uint8Array): string {
	const [status, a, b] = bytes;
	const channel = `channel ${(status & 0x0f) + 1}`;
	switch (status & 0xf0) {
		case 0x80:
			return `Note off ${a}, ${channel}`;
		case 0x90:
			return b === 0 ? `Note off ${a}, ${channel}` : `Note on ${a} velocity ${b}, ${channel}`;
		case 0xa0:
			return `Key pressure ${a} = ${b}, ${channel}`;
		case 0xb0:
			return `Control change ${a} = ${b}, ${channel}`;
		case 0xc0:
			return `Program change ${a}, ${channel}`;
		case 0xd0:
			return `Channel pressure ${a}, ${channel}`;
		case 0xe0:
			return `Pitch bend ${((b << 7) | a) - 8192}, ${channel}`;
	}
	return REAL_TIME[status] ?? COMMON[status] ?? `Undefined message ${toHex(bytes, ' ')}`;
}
