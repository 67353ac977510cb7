import { describe, expect, it } from 'vitest';
import { between, seededRandom, type Random } from '../bench';
import { joinBytes } from '../midi';
import { VirtualClock, converse, type Conversation, type Link, type LinkListener } from '../transfer';
import {
	BROADCAST,
	CI,
	CiTalk,
	Damaged,
	Interrupted,
	Joined,
	OWN,
	Refused,
	asciiJson,
	chunkBody,
	chunksOf,
	ciMessage,
	decodeBody,
	discoveryBody,
	encodeBody,
	ENCODINGS,
	readChunk,
	readCiMessage,
	readDiscovery,
	readInvalidated,
	readRefusal,
	sevens,
	type CiMessage,
	type Discovery,
	type Muid
} from '.';

const bytesOf = (random: Random, length: number, most = 255) =>
	Uint8Array.from({ length }, () => between(random, 0, most));

describe('messages of MIDI-CI', () => {
	it('are, byte by byte, what the specification says', () => {
		expect([...ciMessage(CI.discovery, 0x0123456, BROADCAST, discoveryBody(OWN))]).toEqual([
			...[0xf0, 0x7e, 0x7f, 0x0d, 0x70, 0x02, 0x56, 0x68, 0x48, 0x00, 0x7f, 0x7f, 0x7f, 0x7f],
			...[0x7d, 0, 0, 0, 0, 0, 0, 0, 0, 0, 1, 0x08, 0x00, 0x00, 0x04, 0x00, 0x00, 0xf7]
		]);
		const get = { request: 5, header: asciiJson({ a: 1 }), chunks: 1, chunk: 1, data: new Uint8Array() };
		expect([...chunkBody(get)]).toEqual([5, 7, 0, ...Buffer.from('{"a":1}'), 1, 0, 1, 0, 0, 0]);
	});

	it('come back as they were, whatever they say', () => {
		const random = seededRandom(3);
		for (let run = 0; run < 300; run++) {
			const chunk = {
				request: between(random, 0, 127),
				header: bytesOf(random, between(random, 0, 300), 127),
				chunks: between(random, 0, 400),
				chunk: between(random, 1, 400),
				data: bytesOf(random, between(random, 0, 500), 127)
			};
			const [from, to] = [between(random, 0, BROADCAST), between(random, 0, BROADCAST)];
			const read = readCiMessage(ciMessage(CI.getReply, from, to, chunkBody(chunk)));
			expect(read).toMatchObject({ kind: CI.getReply, from, to, version: 2 });
			expect(readChunk(read!)).toEqual(chunk);
		}
	});

	it('are nothing where they are short, long, or hold what no message can', () => {
		const whole = ciMessage(
			CI.getReply,
			1,
			2,
			chunkBody({ request: 1, header: asciiJson({}), chunks: 1, chunk: 1, data: Uint8Array.of(1, 2) })
		);
		expect(readCiMessage(whole.subarray(0, 12))).toBeNull();
		expect(readCiMessage(whole.with(20, 0x80))).toBeNull();
		expect(readCiMessage(Uint8Array.of(0xf0, 0x7e, 0x7f, 0x06, 0x01, 0xf7))).toBeNull();
		const cut = readCiMessage(joinBytes([whole.subarray(0, -2), Uint8Array.of(0xf7)]))!;
		expect(readChunk(cut)).toBeNull();
		expect(readDiscovery(cut)).toBeNull();
		expect(readInvalidated({ ...cut, body: Uint8Array.of(1, 2) })).toBeNull();
		expect(readRefusal({ ...cut, body: new Uint8Array() })).toEqual({ about: null, status: 0, text: '' });
	});
});

describe('bodies of properties', () => {
	it('come back from every encoding', () => {
		const random = seededRandom(5);
		for (let run = 0; run < 60; run++)
			for (const encoding of ENCODINGS) {
				const body = bytesOf(random, between(random, 0, 900), encoding === 'ASCII' ? 127 : 255);
				const travels = encodeBody(body, encoding);
				expect(travels.every((byte) => byte < 0x80)).toBe(true);
				expect(decodeBody(travels, encoding)).toEqual(body);
			}
	});

	it('pack seven bytes as eight, the one with their highest bits first', () => {
		expect([...encodeBody(Uint8Array.of(0x81, 0x02, 0xff), 'Mcoded7')]).toEqual([0b1010000, 1, 2, 0x7f]);
	});

	it('are refused where they are not what they say, or would become too much', () => {
		const bomb = encodeBody(new Uint8Array(1_200_000), 'zlib+Mcoded7');
		expect(bomb.length).toBeLessThan(4000);
		expect(() => decodeBody(bomb, 'zlib+Mcoded7')).toThrow('too much');
		expect(() => decodeBody(Uint8Array.of(0, 1, 2), 'zlib+Mcoded7')).toThrow('not compressed');
		expect(() => decodeBody(Uint8Array.of(1), 'base64')).toThrow('base64');
		expect(() => encodeBody(Uint8Array.of(200), 'ASCII')).toThrow('seven bits');
	});

	it('travel in chunks that the other side takes, and are joined again', () => {
		const random = seededRandom(8);
		for (let run = 0; run < 60; run++) {
			const most = between(random, 100, 4000);
			const property = {
				header: bytesOf(random, between(random, 2, 200), 127),
				data: bytesOf(random, between(random, 0, 9000), 127)
			};
			const chunks = chunksOf(7, property, most);
			for (const chunk of chunks)
				expect(ciMessage(CI.set, 1, 2, chunkBody(chunk)).length).toBeLessThanOrEqual(Math.max(most, 512));
			const joined = new Joined();
			const told = chunks.map((chunk) => joined.push(chunk));
			expect(told.slice(0, -1).every((each) => each === null)).toBe(true);
			expect(told.at(-1)).toEqual(property);
		}
	});

	it('are broken where a chunk is missing, comes twice, or counts otherwise', () => {
		const chunks = chunksOf(1, { header: asciiJson({}), data: new Uint8Array(3000) }, 512);
		const push = (...which: number[]) => {
			const joined = new Joined();
			return which.map((at) => joined.push(chunks[at])).at(-1);
		};
		expect(push(0, 2)).toBe('broken');
		expect(push(0, 0)).toBe('broken');
		expect(push(1)).toBe('broken');
		const joined = new Joined();
		joined.push(chunks[0]);
		expect(joined.push({ ...chunks[1], chunks: 99 })).toBe('broken');
	});

	it('end where the last says how many there were, whoever did not know before', () => {
		const joined = new Joined();
		const of = (chunk: number, chunks: number) => ({
			request: 1,
			header: new Uint8Array(),
			chunk,
			chunks,
			data: Uint8Array.of(chunk)
		});
		expect(joined.push(of(1, 0))).toBeNull();
		expect(joined.push(of(2, 0))).toBeNull();
		expect(joined.push(of(3, 3))).toMatchObject({ data: Uint8Array.of(1, 2, 3) });
	});
});

/** Somebody on the line, as this test plays it: what comes in, and how to answer. */
type Somebody = (message: CiMessage, say: (bytes: Uint8Array) => void) => void;

/** A conversation over a line with these on it. */
function over<R>(conversation: Conversation<R>, ...line: Somebody[]): R {
	const clock = new VirtualClock();
	const ears = new Set<LinkListener>();
	const link: Link = {
		name: 'line',
		connected: true,
		send(bytes, sent) {
			const message = readCiMessage(bytes);
			clock.after(1, () => {
				sent(true);
				if (!message) return;
				for (const one of line)
					one(message, (answer) => clock.after(2, () => ears.forEach((ear) => ear.bytes(answer))));
			});
		},
		listen(ear) {
			ears.add(ear);
			return () => ears.delete(ear);
		}
	};
	let result: { value: R } | null = null;
	let problem: unknown = null;
	function* guarded(): Conversation<R | null> {
		try {
			return yield* conversation;
		} catch (error) {
			problem = error;
			return null;
		}
	}
	converse(
		guarded(),
		{ link, clock, trace: () => undefined, keep: (_, kept) => kept() },
		(value) => (result = { value: value as R })
	);
	clock.run(() => result !== null);
	if (problem) throw problem as Error;
	return result!.value;
}

const self = (member: number): Discovery => ({ ...OWN, member: Uint8Array.of(member, 0), mostBytes: 512 });

/** Answers discoveries under numbers, one after the other as they are given up. */
function instrument(member: number, numbers: Muid[], answer: Somebody = () => undefined): Somebody {
	let [own, ...next] = numbers;
	return (message, say) => {
		if (message.kind === CI.discovery) {
			if (message.from === own) {
				say(ciMessage(CI.invalidate, own, BROADCAST, sevens(own, 4)));
				[own, ...next] = next;
			} else say(ciMessage(CI.discoveryReply, own, message.from, [...discoveryBody(self(member)), 0]));
		} else if (message.kind === CI.invalidate && readInvalidated(message) === own) [own, ...next] = next;
		else if (message.to === own) answer(message, say);
	};
}

const replies = (message: CiMessage, header: unknown, data: readonly number[] = []): Uint8Array =>
	ciMessage(
		message.kind + 1,
		message.to,
		message.from,
		chunkBody({
			request: readChunk(message)!.request,
			header: asciiJson(header),
			chunks: 1,
			chunk: 1,
			data: Uint8Array.from(data)
		})
	);

function* asking(random: Random = seededRandom(1)): Conversation<string> {
	const talk = new CiTalk(random);
	const [peer] = yield* talk.discover();
	talk.speakWith(peer);
	const { body } = yield* talk.get('X');
	return String.fromCharCode(...body);
}
const OK = [0x6f, 0x6b];

describe('talking with instruments', () => {
	it('meets everybody, each under its number', () => {
		const peers = over(new CiTalk(seededRandom(1)).discover(), instrument(1, [11]), instrument(2, [12]));
		expect(peers.map(({ muid, says }) => [muid, says.member[0]])).toEqual([
			[11, 1],
			[12, 2]
		]);
		expect(over(new CiTalk(seededRandom(1)).discover())).toEqual([]);
	});

	it('has two with one number take others', () => {
		const peers = over(
			new CiTalk(seededRandom(1)).discover(),
			instrument(1, [11, 21]),
			instrument(2, [11, 22])
		);
		expect(peers.map(({ muid }) => muid)).toEqual([21, 22]);
	});

	it('gives its own number up where an instrument has it', () => {
		const random = seededRandom(1);
		const taken = Math.floor(seededRandom(1)() * 0x0fffff00);
		const peers = over(new CiTalk(random).discover(), instrument(1, [taken, 30]), instrument(2, [31]));
		expect(peers.map(({ muid }) => muid)).toEqual([30, 31]);
	});

	it('passes over what is not for it: other numbers, other requests, an answer that came before', () => {
		const noisy = instrument(1, [11], (message, say) => {
			const chunk = readChunk(message)!;
			say(ciMessage(CI.getReply, 99, message.from, message.body));
			say(ciMessage(CI.getReply, 11, 98, message.body));
			say(ciMessage(CI.getReply, 11, message.from, chunkBody({ ...chunk, request: chunk.request + 1 })));
			say(replies(message, { status: 200 }, OK));
		});
		expect(over(asking(), noisy)).toBe('ok');
	});

	it('finds it again where it takes another number in the middle', () => {
		let asked = 0;
		const restless: Somebody = instrument(1, [11, 12], (message, say) => {
			if (asked++ > 0) return say(replies(message, { status: 200 }, OK));
			say(ciMessage(CI.invalidate, 11, BROADCAST, sevens(11, 4)));
			restless(
				{ kind: CI.invalidate, version: 2, from: 11, to: BROADCAST, body: Uint8Array.from(sevens(11, 4)) },
				say
			);
		});
		expect(over(asking(), restless)).toBe('ok');
	});

	it('asks again where an answer came in pieces that do not fit', () => {
		let asked = 0;
		const torn = instrument(1, [11], (message, say) => {
			const whole = replies(message, { status: 200 }, OK);
			const body = readCiMessage(whole)!.body;
			if (asked++ > 0) return say(whole);
			say(
				ciMessage(
					CI.getReply,
					11,
					message.from,
					chunkBody({ ...readChunk(readCiMessage(whole)!)!, chunk: 2, chunks: 3 })
				)
			);
			expect(body.length).toBeGreaterThan(0);
		});
		expect(over(asking(), torn)).toBe('ok');
		const always = instrument(1, [11], (message, say) =>
			say(
				ciMessage(
					CI.getReply,
					11,
					message.from,
					chunkBody({ ...readChunk(readCiMessage(replies(message, {}))!)!, chunk: 2, chunks: 3 })
				)
			)
		);
		expect(() => over(asking(), always)).toThrow(Damaged);
	});

	it('says what was refused, and why', () => {
		const no = instrument(1, [11], (message, say) =>
			say(
				ciMessage(CI.nak, 11, message.from, [
					...[message.kind, 0x20, 0, 0, 0, 0, 0, 0],
					...sevens(4, 2),
					...Buffer.from('Busy')
				])
			)
		);
		expect(() => over(asking(), no)).toThrow(new Refused(0x20, 'Busy'));
		const status = instrument(1, [11], (message, say) =>
			say(replies(message, { status: 404, message: 'No such thing' }))
		);
		expect(() => over(asking(), status)).toThrow(new Refused(404, 'No such thing'));
	});

	it('subscribes, answers what it is told, and ends what it subscribed to when it leaves', () => {
		const answers: unknown[] = [];
		const wants: unknown[] = [];
		const headOf = (message: CiMessage) =>
			JSON.parse(String.fromCharCode(...readChunk(message)!.header)) as Record<string, unknown>;
		const tells = (to: Muid, request: number, header: unknown, chunks = 1, chunk = 1) =>
			ciMessage(
				CI.subscription,
				11,
				to,
				chunkBody({ request, header: asciiJson(header), chunks, chunk, data: new Uint8Array() })
			);
		const teller = instrument(1, [11], (message, say) => {
			if (message.kind === CI.subscriptionReply)
				return void answers.push([readChunk(message)!.request, headOf(message)]);
			if (message.kind === CI.subscription) {
				wants.push(headOf(message));
				return say(replies(message, { status: 200, subscribeId: 'a' }));
			}
			// In the middle of an answer: of ours, of nobody's, of none, no word at all, and one in parts.
			say(tells(message.from, 1, { command: 'notify', subscribeId: 'a' }));
			say(tells(message.from, 2, { command: 'notify', subscribeId: 'b' }));
			say(tells(message.from, 3, { command: 'sing', subscribeId: 'a' }));
			say(tells(message.from, 4, {}));
			say(tells(message.from, 5, { command: 'full', subscribeId: 'a' }, 2, 1));
			say(replies(message, { status: 200 }, OK));
		});
		function* following(): Conversation<boolean[]> {
			const talk = new CiTalk(seededRandom(1));
			const [peer] = yield* talk.discover();
			talk.speakWith(peer);
			yield* talk.subscribe('StateList', { resId: 'x' });
			const told = [talk.toldChanges()];
			yield* talk.get('X');
			told.push(talk.toldChanges(), talk.toldChanges());
			yield* talk.leave();
			return told;
		}
		expect(over(following(), teller)).toEqual([false, true, false]);
		expect(answers).toEqual([
			[1, { status: 200, subscribeId: 'a' }],
			[2, { status: 404, subscribeId: 'b' }],
			[3, { status: 400, subscribeId: 'a' }],
			[4, { status: 400 }]
		]);
		expect(wants).toEqual([
			{ command: 'start', resource: 'StateList', resId: 'x' },
			{ command: 'end', subscribeId: 'a' }
		]);
	});

	it('says that nothing came, and sends an order once only', () => {
		expect(() => over(asking(), instrument(1, [11]))).toThrow(Interrupted);
		let orders = 0;
		const deaf = instrument(1, [11], ({ kind }) => {
			if (kind === CI.set) orders++;
		});
		function* giving(): Conversation<void> {
			const talk = new CiTalk(seededRandom(1));
			const [peer] = yield* talk.discover();
			talk.speakWith(peer);
			yield* talk.set('State', { resId: 'a' }, Uint8Array.of(1), 'Mcoded7');
		}
		expect(() => over(giving(), deaf)).toThrow(Interrupted);
		expect(orders).toBe(1);
	});
});
