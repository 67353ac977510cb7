import { portName, type Placed } from './rig-index';
import type { Cable } from './schema';
import { RIG_CONNECTORS, type RigConnector } from './words';

/** What is to be said of a cable between two ports. */
export interface Join {
	/** Whether what it is for gets through: messages, sound, a pedal's contact, power. */
	fits: boolean;
	/** Why not, as the code of a rule. */
	fault: 'direction' | 'usb-device' | 'usb-needs-host' | 'usb-hosts' | 'trs-crossing' | 'connector' | null;
	says: string;
	/** What sits between the plugs, such as “TRS type A to DIN adapter”; empty for a plain cable. */
	adapter: string;
}

const TRS = { 'trs-a': 'A', 'trs-b': 'B' } as const;
type Trs = keyof typeof TRS;
const isTrs = (connector: RigConnector): connector is Trs => connector in TRS;

/** Sockets that carry no messages, and what is said of a cable between two of a kind. */
const PLAIN: Partial<Record<RigConnector, string>> = {
	audio: 'Audio cable.',
	pedal: 'Pedal cable. Which contacts and which wiper the jack wants is not judged here.',
	power:
		'Power cable. Volts, polarity and current are not judged here: the labels on the supply and on the device decide.'
};

const no = (fault: NonNullable<Join['fault']>, says: string): Join => ({
	fits: false,
	fault,
	says,
	adapter: ''
});
const yes = (says: string, adapter = ''): Join => ({ fits: true, fault: null, says, adapter });

const sending = (placed: Placed) => placed.port.direction === 'out' || placed.port.direction === 'thru';

function joinUsb(from: Placed, to: Placed): Join {
	const kinds = [from, to].map(({ port }) => port.connector);
	if (kinds.every((kind) => kind === 'usb-device'))
		return no(
			'usb-device',
			`${from.device.name} and ${to.device.name} are both USB devices: neither can host the other. A computer or a USB host box has to stand between them.`
		);
	if (kinds.every((kind) => kind === 'usb-host'))
		return no(
			'usb-hosts',
			`${from.device.name} and ${to.device.name} are both USB hosts: one end must be a USB device.`
		);
	if (kinds.includes('usb-device') && kinds.includes('usb-host')) return yes('USB cable, device to host.');
	const usb = from.port.connector.startsWith('usb') ? from : to;
	const other = usb === from ? to : from;
	return no(
		'usb-needs-host',
		`${usb.device.name} speaks USB only here: it reaches the ${RIG_CONNECTORS[other.port.connector]} socket of ${other.device.name} through a computer or a USB host box. A USB interface does not do it, being a USB device itself.`
	);
}

function joinWire(from: Placed, to: Placed, adapter: Cable['adapter']): Join {
	const [a, b] = [from.port.connector, to.port.connector];
	if (isTrs(a) && isTrs(b)) {
		const crossed = adapter === 'crossing';
		if ((a === b) === crossed)
			return no(
				'trs-crossing',
				crossed
					? `Both sockets are TRS type ${TRS[a]}: the crossing adapter has to come out.`
					: `${portName(from)} is TRS type ${TRS[a]} and ${portName(to)} type ${TRS[b]}: it needs a crossing adapter.`
			);
		return yes('TRS cable.', crossed ? `TRS type ${TRS[a]} to type ${TRS[b]} crossing adapter` : '');
	}
	const trs = isTrs(a) ? a : isTrs(b) ? b : null;
	if (trs) {
		const fitted = adapter === 'type-a' ? 'trs-a' : adapter === 'type-b' ? 'trs-b' : trs;
		if (fitted !== trs)
			return no(
				'trs-crossing',
				`The adapter is TRS type ${TRS[fitted]}, the socket of ${(isTrs(a) ? from : to).device.name} is type ${TRS[trs]}.`
			);
		return yes('Through an adapter.', `TRS type ${TRS[trs]} to DIN adapter`);
	}
	return yes('DIN cable.');
}

/**
 * Whether a cable between two ports carries what it is for, and why not: direction, connector, adapter, host or device side
 * (field guide 3.2; MIDI over 3.5 mm TRS: types A and B swap source and sink).
 */
export function checkJoin(from: Placed, to: Placed, adapter?: Cable['adapter']): Join {
	const [a, b] = [from.port, to.port];
	if (a.connector !== b.connector && (a.connector in PLAIN || b.connector in PLAIN)) {
		const [plain, other] = a.connector in PLAIN ? [a, b] : [b, a];
		return no(
			'connector',
			`One end is ${RIG_CONNECTORS[plain.connector]}, the other is ${RIG_CONNECTORS[other.connector]}.`
		);
	}
	if (a.connector.startsWith('usb') || b.connector.startsWith('usb')) return joinUsb(from, to);
	if (a.connector === 'virtual' || b.connector === 'virtual')
		return no('connector', 'A virtual port is a name in the computer: no cable goes into it.');
	if (a.direction === 'in' && b.direction === 'in')
		return no(
			'direction',
			`Both ends are ins: ${portName(from)} and ${portName(to)}. A cable goes from an out (or thru) to an in.`
		);
	if (sending(from) && sending(to))
		return no(
			'direction',
			`Both ends send: ${portName(from)} and ${portName(to)}. A cable goes from an out (or thru) to an in.`
		);
	if (a.direction === 'in' || sending(to))
		return no(
			'direction',
			`The cable is noted the wrong way round: it goes from ${portName(to)} to ${portName(from)}.`
		);
	const plain = PLAIN[a.connector];
	if (plain) return yes(plain);
	if ((a.connector === 'wireless') !== (b.connector === 'wireless'))
		return no(
			'connector',
			`A wireless port pairs with a wireless port, not with ${RIG_CONNECTORS[(a.connector === 'wireless' ? b : a).connector]}.`
		);
	if (a.connector === 'wireless') return yes('Paired by radio.');
	return joinWire(from, to, adapter);
}
