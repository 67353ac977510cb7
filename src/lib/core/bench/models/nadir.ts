import { joinBytes } from '../../midi';
import { CHECKSUMS, PACKINGS } from '../../sysex';
import { SimulatedDevice, cutRecords, type UnitManners } from '../unit';

const MODEL = 0x47;
const packing = PACKINGS['7in8-last-high'];
const checksum = CHECKSUMS['sum-7'];
const KITS = 48;
const GROUP = 8;
const SIZE = 96;

/** A drum machine of the old school: it dumps when its own button is pressed, and takes nothing until it is told to. */
export class Nadir extends SimulatedDevice {
	readonly manners: UnitManners = { bufferBytes: 128, thinkMs: 10, forgets: ['protect', 'exclusive'] };
	protected override dumpButton = 'DUMP ALL KITS';

	get switches() {
		return [
			this.flag('protect', 'Memory protect', 1),
			this.flag('exclusive', 'Exclusive', 0),
			this.dial('deviceId', 'Device ID', 0, 0, 15)
		];
	}

	/** Six messages of eight kits with a rest of 60 ms between them. */
	override dump(): void {
		for (let group = 0; group < KITS / GROUP; group++) {
			const body = packing.pack(joinBytes(this.state.memory.kits.slice(group * GROUP, (group + 1) * GROUP)));
			const message = Uint8Array.of(
				0xf0,
				0x7d,
				MODEL,
				0x02,
				this.deviceId,
				group,
				...body,
				...checksum.of(body),
				0xf7
			);
			this.reply(message, this.manners.thinkMs + group * (message.length * 0.32 + 60));
		}
		this.say('DUMPING');
	}

	protected handle(message: Uint8Array): void {
		if (message[1] !== 0x7d || message[2] !== MODEL || message[3] !== 0x02 || message[4] !== this.deviceId)
			return;
		if (!this.isOn('exclusive')) return;
		if (this.isOn('protect')) return this.say('MEM PROTECTED');
		const group = message[5];
		const body = message.subarray(6, message.length - 2);
		if (group >= KITS / GROUP || body.length !== packing.packedLength(SIZE * GROUP))
			return this.say('DATA ERROR');
		if (checksum.of(body)[0] !== message[message.length - 2]) return this.say('DATA ERROR');
		this.store('kits', group * GROUP, cutRecords(packing.unpack(body), SIZE));
		this.say(`KITS ${group * GROUP + 1}-${(group + 1) * GROUP}`);
		this.work(120);
	}
}
