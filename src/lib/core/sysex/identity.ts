import { toHex } from '../midi';
import { manufacturerOf } from './manufacturer';

/** Device ID that every device answers to (MIDI 1.0, universal messages). */
export const ALL_DEVICES = 0x7f;

/** What a device says of itself in an identity reply. */
export interface Identity {
	/** 0–127, as on the wire. */
	deviceId: number;
	manufacturer: Uint8Array;
	/** Two bytes, as sent. */
	family: Uint8Array;
	/** Two bytes, as sent. */
	member: Uint8Array;
	/** Four bytes, as sent; most devices show them as a firmware version. */
	version: Uint8Array;
}

/** What of an identity says which model it is. */
export type Model = Pick<Identity, 'manufacturer' | 'family' | 'member'>;

/** The same text for the same model, and another for any other. */
export const modelKey = ({ manufacturer, family, member }: Model): string =>
	[manufacturer, family, member].map((bytes) => toHex(bytes)).join(' ');

/** `F0 7E dev 06 01 F7`: asks device `deviceId` (127 = all) who it is. */
export const identityRequest = (deviceId: number = ALL_DEVICES): Uint8Array =>
	Uint8Array.of(0xf0, 0x7e, deviceId & 0x7f, 0x06, 0x01, 0xf7);

/** Whether `message` asks for identity, and which device; null where it is something else. */
export function readIdentityRequest(message: Uint8Array): { deviceId: number } | null {
	return message.length === 6 && message[1] === 0x7e && message[3] === 0x06 && message[4] === 0x01
		? { deviceId: message[2] }
		: null;
}

/** `F0 7E dev 06 02 manufacturer family(2) member(2) version(4) F7`. */
export function identityReply(identity: Identity): Uint8Array {
	return Uint8Array.of(
		0xf0,
		0x7e,
		identity.deviceId,
		0x06,
		0x02,
		...identity.manufacturer,
		...identity.family,
		...identity.member,
		...identity.version,
		0xf7
	);
}

/** Reads an identity reply; null where the message is something else or is too short. */
export function readIdentityReply(message: Uint8Array): Identity | null {
	if (
		message.length < 15 ||
		message[0] !== 0xf0 ||
		message[1] !== 0x7e ||
		message[3] !== 0x06 ||
		message[4] !== 0x02
	)
		return null;
	const manufacturer = manufacturerOf(message.subarray(4));
	const at = 5 + manufacturer.length;
	if (manufacturer.length === 0 || message.length !== at + 9) return null;
	return {
		deviceId: message[2],
		manufacturer,
		family: message.slice(at, at + 2),
		member: message.slice(at + 2, at + 4),
		version: message.slice(at + 4, at + 8)
	};
}
