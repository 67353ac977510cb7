import { unzlibSync, zlibSync } from 'fflate';
import { SimulatedDevice, type UnitManners } from '../unit';
import { seededRandom } from '../random';

/** Property exchange as it is spoken by the instrument: everything here is its own. */
const [MANY, HEAD_BYTES] = [0xfffffff, 14];
/** Bytes of a chunk's data. */
const CHUNK = 180;
/** How long it writes a patch. */
const WRITE_MS = 12;
const NAME = 16;

const put = (n: number, bytes: number): number[] => {
	const out: number[] = [];
	for (let i = 0; i < bytes; i++, n >>>= 7) out.push(n & 0x7f);
	return out;
};
const take = (from: Uint8Array, at: number, bytes: number): number => {
	let n = 0;
	for (let i = bytes - 1; i >= 0; i--) n = (n << 7) | from[at + i];
	return n;
};

/** Eight bytes for seven: first the high bits, the first byte’s the highest. */
function eighths(body: Uint8Array): number[] {
	const out: number[] = [];
	for (let i = 0; i < body.length; i += 7) {
		const group = [...body.subarray(i, i + 7)];
		out.push(group.reduce((high, byte, k) => high | ((byte >> 7) << (6 - k)), 0));
		out.push(...group.map((byte) => byte & 0x7f));
	}
	return out;
}

function sevenths(data: Uint8Array): Uint8Array {
	const out: number[] = [];
	for (let i = 0; i < data.length; i += 8)
		for (let k = 1; k < 8 && i + k < data.length; k++)
			out.push(data[i + k] | (((data[i] >> (7 - k)) & 1) << 7));
	return Uint8Array.from(out);
}

const letters = (text: string): Uint8Array => Uint8Array.from(text, (sign) => sign.charCodeAt(0));

interface Header {
	resource?: string;
	resId?: string;
	mutualEncoding?: string;
	command?: string;
	subscribeId?: string;
	status?: number;
}

/** Somebody who wants to be told when a list changes. */
interface Listener {
	id: string;
	who: number;
	list: string;
	of: string | undefined;
}

/** An answer: what its head says, and its body. */
interface Reply {
	head: Record<string, unknown>;
	body?: Uint8Array;
}

const NO = (status: number, message: string): Reply => ({ head: { status, message } });

/**
 * A synthesiser that no profile describes: it says itself what it is, what its patches are called and how to get and set them
 * (MIDI-CI property exchange). What it stores of a patch is as long as its name is.
 */
export class Marl extends SimulatedDevice {
	readonly manners: UnitManners = { bufferBytes: 4000, thinkMs: 6, forgets: [] };
	#numbers = seededRandom(
		Object.values(this.state.memory)
			.flat()
			.reduce((sum, record) => sum * 31 + record[0], 7)
	);
	#own = this.#fresh();
	/** What came of an order that is sent in parts, by who sends it. */
	#coming = new Map<number, number[]>();
	#listeners: Listener[] = [];
	#told = 0;
	#subscribed = 0;

	/** How many want to be told of something. */
	get listeners(): number {
		return this.#listeners.length;
	}

	get switches() {
		return [
			this.flag('describes', 'MIDI-CI', 1),
			this.flag('identity', 'Answers identity requests', 1),
			this.flag('follows', 'Tells when a list changes', 1),
			this.flag('packs', 'Packs what it sends', 0),
			this.flag('protect', 'Memory protect', 0),
			this.flag('takes', 'Takes states', 1)
		];
	}

	#fresh(): number {
		return Math.floor(this.#numbers() * 0xffffeff);
	}

	protected override get answersIdentity(): boolean {
		return this.isOn('identity');
	}

	override powerCycle(held = false): void {
		super.powerCycle(held);
		this.#own = this.#fresh();
		this.#coming.clear();
		this.#listeners = [];
	}

	protected override store(area: string, first: number, records: readonly Uint8Array[]): void {
		const before = this.#lists();
		super.store(area, first, records);
		const after = this.#lists();
		for (const { id, who, list, of } of this.#listeners) {
			const key = `${list} ${of ?? ''}`;
			if (before[key] === after[key]) continue;
			this.#told = (this.#told + 1) & 0x7f;
			this.#answer(0x38, who, this.#told, { head: { command: 'notify', subscribeId: id } });
		}
	}

	#lists(): Record<string, string> {
		const said = (header: Header) => String.fromCharCode(...(this.#get(header).body ?? []));
		return {
			'StateList ': said({ resource: 'StateList' }),
			'ProgramList patches': said({ resource: 'ProgramList', resId: 'patches' })
		};
	}

	#say(kind: number, to: number, body: readonly number[], afterMs?: number): void {
		this.reply(
			Uint8Array.from([0xf0, 0x7e, 0x7f, 0x0d, kind, 2, ...put(this.#own, 4), ...put(to, 4), ...body, 0xf7]),
			afterMs
		);
	}

	protected handle(message: Uint8Array): void {
		if (!this.isOn('describes') || message[1] !== 0x7e || message[3] !== 0x0d || message.length < HEAD_BYTES)
			return;
		const kind = message[4];
		const [from, to] = [take(message, 6, 4), take(message, 10, 4)];
		const body = message.subarray(HEAD_BYTES, -1);
		if (kind === 0x70) this.#meet(from);
		else if (kind === 0x7e) this.#forget(take(body, 0, 4));
		else if (to !== this.#own) return;
		else if (kind === 0x30) this.#say(0x31, from, [1, 0, 0]);
		else if (kind === 0x34 || kind === 0x36 || kind === 0x38) this.#order(kind, from, body);
		else if (kind === 0x39) this.#answered(body);
		else if (to !== MANY) this.#say(0x7f, from, [kind, 1, 0, 0, 0, 0, 0, 0, 0, 0]);
	}

	#meet(from: number): void {
		if (from === this.#own) {
			// Its number is somebody’s already.
			this.#say(0x7e, MANY, put(this.#own, 4));
			this.#own = this.#fresh();
			return;
		}
		const model = [0x7d, 0, 0, 0x6e, 0, 2, 0];
		const version = [...this.state.firmware, 0, 0];
		this.#say(0x71, from, [...model, ...version, 0x08, ...put(1024, 4), 0, 0]);
	}

	#forget(whose: number): void {
		this.#coming.delete(whose);
		this.#listeners = this.#listeners.filter(({ who }) => who !== whose);
		if (whose !== this.#own) return;
		this.#own = this.#fresh();
	}

	/** A question, or a part of an order. */
	#order(kind: number, from: number, body: Uint8Array): void {
		const request = body[0];
		const headLength = take(body, 1, 2);
		const at = 3 + headLength;
		const [count, part, length] = [take(body, at, 2), take(body, at + 2, 2), take(body, at + 4, 2)];
		const data = body.subarray(at + 6, at + 6 + length);
		const key = from;
		if (part === 1) this.#coming.set(key, [headLength, ...body.subarray(3, at)]);
		const kept = this.#coming.get(key);
		if (!kept) return;
		kept.push(...data);
		if (part < count) return;
		this.#coming.delete(key);
		const head = kept.slice(1, 1 + kept[0]);
		let header: Header;
		try {
			header = JSON.parse(String.fromCharCode(...head)) as Header;
		} catch {
			return this.#answer(kind + 1, from, request, NO(400, 'That is no header.'));
		}
		const rest = Uint8Array.from(kept.slice(1 + kept[0]));
		const reply =
			kind === 0x34
				? this.#get(header)
				: kind === 0x36
					? this.#set(header, rest)
					: this.#subscribe(from, header);
		this.#answer(kind + 1, from, request, reply);
	}

	#subscribe(who: number, { command, resource = '', resId, subscribeId }: Header): Reply {
		if (command === 'end') {
			const left = this.#listeners.filter(({ id }) => id !== subscribeId);
			if (left.length === this.#listeners.length) return NO(404, 'Nobody listens under that number.');
			this.#listeners = left;
			return { head: { status: 200 } };
		}
		const can = this.isOn('follows') && `${resource} ${resId ?? ''}` in this.#lists();
		if (command !== 'start' || !can) return NO(405, 'It tells nothing of that.');
		const id = `l${++this.#subscribed}`;
		this.#listeners.push({ id, who, list: resource, of: resId });
		return { head: { status: 200, subscribeId: id } };
	}

	/** Who does not know what they are told of is told no more. */
	#answered(body: Uint8Array): void {
		const { status = 200, subscribeId } = JSON.parse(
			String.fromCharCode(...body.subarray(3, 3 + take(body, 1, 2)))
		) as Header;
		if (status >= 400) this.#listeners = this.#listeners.filter(({ id }) => id !== subscribeId);
	}

	#answer(kind: number, to: number, request: number, { head, body }: Reply): void {
		const packs = this.isOn('packs');
		const coded =
			body === undefined ? {} : { mutualEncoding: packs ? 'zlib+Mcoded7' : head.text ? 'ASCII' : 'Mcoded7' };
		const { text, ...said } = head;
		const header = letters(JSON.stringify({ ...said, ...coded }));
		const data = body === undefined ? [] : packs ? eighths(zlibSync(body)) : text ? [...body] : eighths(body);
		const parts = Math.max(1, Math.ceil(data.length / CHUNK));
		for (let part = 0; part < parts; part++) {
			const cut = data.slice(part * CHUNK, (part + 1) * CHUNK);
			const first = part === 0 ? [...header] : [];
			this.#say(
				kind,
				to,
				[
					request,
					...put(first.length, 2),
					...first,
					...put(parts, 2),
					...put(part + 1, 2),
					...put(cut.length, 2),
					...cut
				],
				this.manners.thinkMs + part
			);
		}
	}

	#list(value: unknown): Reply {
		return { head: { status: 200, text: true }, body: letters(JSON.stringify(value)) };
	}

	#get({ resource, resId }: Header): Reply {
		const programs = this.state.memory.patches.map((patch, i) => ({
			title: this.#nameOf(patch),
			bankPC: [0, i >> 4, i & 15],
			links: [{ resource: 'State', resId: `patch${i + 1}` }]
		}));
		switch (resource) {
			case 'ResourceList':
				return this.#list([
					{ resource: 'DeviceInfo' },
					{ resource: 'ChannelList' },
					{ resource: 'ProgramList', requireResId: true, canSubscribe: this.isOn('follows') },
					{ resource: 'StateList', canSubscribe: this.isOn('follows') },
					{
						resource: 'State',
						requireResId: true,
						canSet: this.isOn('takes') ? 'full' : 'none',
						encodings: ['Mcoded7', 'zlib+Mcoded7']
					}
				]);
			case 'DeviceInfo':
				return this.#list({
					manufacturerId: [0x7d, 0, 0],
					familyId: [0x6e, 0],
					modelId: [2, 0],
					versionId: [...this.state.firmware, 0, 0],
					manufacturer: 'Selden Works',
					family: 'synthesiser',
					model: 'Marl',
					version: this.state.firmware.join('.')
				});
			case 'ChannelList':
				return this.#list([
					{ title: 'All of it', channel: 1, links: [{ resource: 'ProgramList', resId: 'patches' }] }
				]);
			case 'ProgramList':
				return resId === 'patches' ? this.#list(programs) : NO(404, 'There is no such list.');
			case 'StateList':
				return this.#list([
					...this.state.memory.patches.map((patch, i) => ({
						title: `Patch ${i + 1}`,
						stateId: `patch${i + 1}`,
						size: this.#stored(patch).length
					})),
					{ title: 'Setup', stateId: 'setup', size: this.state.memory.setup[0].length }
				]);
			case 'State': {
				const found = this.#place(resId);
				if (!found) return NO(404, 'There is no such state.');
				const record = this.state.memory[found.area][found.at];
				return { head: { status: 200 }, body: found.area === 'setup' ? record : this.#stored(record) };
			}
			default:
				return NO(404, 'It knows nothing of that.');
		}
	}

	#set({ resource, resId, mutualEncoding }: Header, data: Uint8Array): Reply {
		const found = resource === 'State' ? this.#place(resId) : null;
		if (!found) return NO(404, 'There is no such state.');
		if (this.isOn('protect')) return NO(403, 'Memory protect is on.');
		let body = data;
		if (mutualEncoding === 'Mcoded7' || mutualEncoding === 'zlib+Mcoded7') body = sevenths(data);
		if (mutualEncoding === 'zlib+Mcoded7') body = unzlibSync(body);
		const old = this.state.memory[found.area][found.at];
		const record = found.area === 'setup' ? body : this.#unstored(body, old.length);
		if (!record || record.length !== old.length) return NO(342, 'That is no patch.');
		this.work(WRITE_MS);
		this.store(found.area, found.at, [record]);
		return { head: { status: 200 } };
	}

	#place(resId = ''): { area: 'patches' | 'setup'; at: number } | null {
		if (resId === 'setup') return { area: 'setup', at: 0 };
		const at = /^patch([1-9]\d?)$/.exec(resId);
		return at && Number(at[1]) <= this.state.memory.patches.length
			? { area: 'patches', at: Number(at[1]) - 1 }
			: null;
	}

	#nameOf(patch: Uint8Array): string {
		return String.fromCharCode(...patch.subarray(0, NAME)).trimEnd();
	}

	/** A patch as it stores it: a sign, the length of its name, the name, and its settings. */
	#stored(patch: Uint8Array): Uint8Array {
		const name = letters(this.#nameOf(patch));
		return Uint8Array.from([0xa5, name.length, ...name, ...patch.subarray(NAME)]);
	}

	#unstored(body: Uint8Array, size: number): Uint8Array | null {
		const length = body[1];
		if (body[0] !== 0xa5 || length > NAME || body.length !== 2 + length + size - NAME) return null;
		const patch = new Uint8Array(size).fill(0x20, 0, NAME);
		patch.set(body.subarray(2, 2 + length));
		patch.set(body.subarray(2 + length), NAME);
		return patch;
	}
}
