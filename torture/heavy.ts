import { spawn } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { strToU8, zipSync } from 'fflate';
import { serve } from '../e2e/server-process';
import { factoryState, seededRandom } from '../src/lib/core/bench';
import { shippedProfiles } from '../src/lib/core/bench/bench.fixture';
import { makeSlot, messagesFor } from '../src/lib/core/profile';
import { freshCopy, type Template } from './template';

const MB = 1024 * 1024;
/** The most that a request may take beyond its own body, and that another one waits meanwhile. */
export const MOST_MB = 150;
export const LONGEST_MS = 200;

/** A request that is as much work as one may be. */
interface Heavy {
	what: string;
	path: string;
	body(): Uint8Array;
	/** As a file of a form. */
	form?: boolean;
	/** Done in a moment: for a short torture, too. */
	quick?: true;
}

const filled = (size: number, pattern: (i: number) => number): Uint8Array => {
	const bytes = new Uint8Array(size);
	for (let i = 0; i < size; i++) bytes[i] = pattern(i);
	return bytes;
};
/** A stream of messages of one length. */
const messages = (size: number, each: number): Uint8Array =>
	filled(size - (size % each), (i) =>
		i % each === 0 ? 0xf0 : i % each === each - 1 ? 0xf7 : (i * 7) & 0x7f
	);

/** As many messages of one device as a file may have, each of them damaged. */
function damaged(): Uint8Array {
	const [profile] = shippedProfiles;
	const [{ id }] = profile.areas;
	const [first] = factoryState(profile, seededRandom(1)).memory[id];
	const [message] = messagesFor(profile, [makeSlot(profile, id, 0, first)], { deviceId: 0, channel: 1 });
	message[message.length - 3] ^= 1;
	const many = Math.min(100_000, Math.floor(LARGE / message.length));
	return filled(many * message.length, (i) => message[i % message.length]);
}

function midiFile(size: number): Uint8Array {
	const head = [0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96, 0x4d, 0x54, 0x72, 0x6b];
	const bytes = filled(size, (i) => [0, 0x90, i & 0x7f, 1][i % 4]);
	bytes.set(head);
	new DataView(bytes.buffer).setUint32(head.length, size - head.length - 4);
	return bytes;
}

const text = (size: number, line: (i: number) => string): Uint8Array => {
	const lines: string[] = [];
	for (let length = 0, i = 0; length < size; i++) {
		const next = line(i);
		lines.push(next);
		length += next.length + 1;
	}
	return strToU8(lines.join('\n'));
};

/** The list of a bundle of one device with so many versions. */
const manifest = (versions: number) =>
	strToU8(
		JSON.stringify({
			format: 'silent-drawer.bundle',
			version: 1,
			madeAt: '2026-01-01T00:00:00.000Z',
			title: 'Heavy',
			devices: [
				{
					id: 'd',
					facts: { name: 'D' },
					versions: Array.from({ length: versions }, (_, i) => version(i, fileOf(i)))
				}
			],
			profiles: []
		})
	);
const fileOf = (i: number) => `drawers/d/${i}.syx`;
const version = (i: number, file: string) => ({
	id: `v${i}`,
	takenAt: '2026-01-01T00:00:00.000Z',
	kind: 'routine',
	title: '',
	note: '',
	tags: [],
	pinned: false,
	verified: false,
	missing: 0,
	firmware: null,
	fromDevice: false,
	profile: null,
	file,
	messages: ['ab'.repeat(32)]
});

const LARGE = 31 * MB;

export const HEAVY: Heavy[] = [
	{
		what: 'empty messages',
		path: '/files/inspect',
		form: true,
		body: () => messages(LARGE, 2)
	},
	{
		what: 'many messages',
		path: '/files/inspect',
		form: true,
		body: () => messages(LARGE, 330)
	},
	{
		what: 'a knob that is turned',
		quick: true,
		path: '/files/inspect',
		form: true,
		body: () => filled(3 * 99_999, (i) => [0xb0, 14, (i >> 2) & 0x7f][i % 3])
	},
	{ what: 'damaged messages', path: '/files/inspect', form: true, body: damaged },
	{
		what: 'long messages',
		path: '/files/inspect',
		form: true,
		body: () => messages(LARGE, 7 * MB)
	},
	{ what: 'a MIDI file', path: '/files/inspect', form: true, body: () => midiFile(LARGE) },
	{ what: 'a recording', path: '/control/learn', form: true, body: () => midiFile(LARGE) },
	{
		what: 'a table of devices',
		path: '/catalogue/preview',
		body: () => strToU8(JSON.stringify({ text: `Name,Maker\n${'One,"Two"\n'.repeat(1_200_000)}` }))
	},
	{
		what: 'a body of lists',
		quick: true,
		path: '/devices',
		body: () => strToU8(`[${'[1,2],'.repeat(3_000_000)}0]`)
	},
	{
		what: 'a body of one text',
		path: '/devices',
		body: () => strToU8(JSON.stringify({ name: 'n'.repeat(19 * MB) }))
	},
	{
		what: 'a body that is nested',
		quick: true,
		path: '/devices',
		body: () => strToU8('['.repeat(19 * MB))
	},
	{
		what: 'an archive that unpacks to 1 GB',
		path: '/bundle',
		body: () =>
			zipSync({
				'manifest.json': manifest(34),
				...Object.fromEntries(
					Array.from({ length: 34 }, (_, i) => [fileOf(i), [new Uint8Array(LARGE), { level: 6 }]])
				)
			} as never)
	},
	{
		what: 'an archive whose list is 60 MB',
		path: '/bundle',
		body: () => zipSync({ 'manifest.json': manifest(180_000) })
	},
	{
		what: 'names in XML',
		quick: true,
		path: '/files/inspect',
		form: true,
		body: () => text(LARGE, (i) => (i === 0 ? '<MIDINameDocument>' : `<Patch Number="${i}" Name="N${i}"/>`))
	}
];

/** Memory that a process has, MB; 0 once it is gone. */
const residentMB = (pid: number): number => {
	const file = `/proc/${pid}/statm`;
	return existsSync(file) ? (Number(readFileSync(file, 'utf8').split(' ')[1]) * 4096) / MB : 0;
};

/** Asks again and again, in a process of its own: what this one does would count as waiting. */
const ASKING = `
const url = process.argv[1];
process.on('SIGTERM', () => process.exit());
for (;;) {
	const asked = performance.now();
	try { await (await fetch(url)).text(); } catch (error) { process.stdout.write('1e9\\n'); process.exit(); }
	process.stdout.write((performance.now() - asked) + '\\n');
	await new Promise((done) => setTimeout(done, 5));
}`;

function ask(url: string): { count(): number; longestMs(): number; forget(): void; end(): void } {
	const child = spawn(process.execPath, ['--input-type=module', '-e', ASKING, url]);
	let waits: number[] = [];
	child.stdout.on('data', (chunk: Buffer) => waits.push(...chunk.toString().trim().split('\n').map(Number)));
	return {
		count: () => waits.length,
		longestMs: () => Math.max(0, ...waits),
		forget: () => (waits = []),
		end: () => child.kill('SIGKILL')
	};
}

const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

export interface Carried {
	what: string;
	/** 0 where the server ended. */
	status: number;
	/** Memory at its peak, beyond what the server had before and the body. */
	peakMB: number;
	/** The longest that a small request waited meanwhile, ms. */
	longestMs: number;
	tookMs: number;
}

/** Sends one heavy request to a server of its own, and small ones meanwhile. */
export async function carry(template: Template, heavy: Heavy, port: number): Promise<Carried> {
	const body = heavy.body() as Uint8Array<ArrayBuffer>;
	const file = freshCopy(template, 'heavy');
	const server = await serve(port, join(file, '..'));
	const asking = ask(`${server.url}/api/v1/devices`);
	try {
		const pid = server.process.pid!;
		// The studio is open, and the code warm.
		while (asking.count() < 40) await pause(50);
		asking.forget();
		const before = residentMB(pid);
		let peak = before;
		const watch = setInterval(() => (peak = Math.max(peak, residentMB(pid))), 5);
		const form = new FormData();
		form.set('file', new Blob([body]), 'a.syx');
		const type = heavy.path.startsWith('/bundle') ? 'application/zip' : 'application/json';
		const began = performance.now();
		const status = await fetch(`${server.url}/api/v1${heavy.path}`, {
			method: 'POST',
			...(heavy.form ? { body: form } : { body, headers: { 'content-type': type } })
		}).then(
			async (answer) => {
				await answer.arrayBuffer();
				return answer.status;
			},
			() => 0
		);
		const tookMs = performance.now() - began;
		await pause(50);
		clearInterval(watch);
		return {
			what: heavy.what,
			status,
			peakMB: peak - before - body.length / MB,
			longestMs: asking.longestMs(),
			tookMs
		};
	} finally {
		asking.end();
		await server.kill();
	}
}

export interface Carry {
	carried: Carried[];
	faults: string[];
}

/**
 * Sends each of the heavy requests.
 * @param waits the longest that others may wait, ms: more on a machine that does other things
 */
export async function carryAll(
	template: Template,
	port: number,
	{ quick, waits }: { quick: boolean; waits: number }
): Promise<Carry> {
	const [carried, faults] = [[] as Carried[], [] as string[]];
	for (const heavy of HEAVY.filter((each) => !quick || each.quick)) {
		let made = await carry(template, heavy, port);
		// A busy machine may have been slow: it has to happen again.
		if (made.longestMs > waits || made.peakMB > MOST_MB) {
			const again = await carry(template, heavy, port);
			made = {
				...again,
				longestMs: Math.min(made.longestMs, again.longestMs),
				peakMB: Math.min(made.peakMB, again.peakMB)
			};
		}
		carried.push(made);
		const { what, status, peakMB, longestMs } = made;
		if (status === 0 || status >= 500) faults.push(`${what}: answered ${status}`);
		if (peakMB > MOST_MB) faults.push(`${what}: took ${peakMB.toFixed(0)} MB beside its body`);
		if (longestMs > waits) faults.push(`${what}: others waited ${longestMs.toFixed(0)} ms`);
	}
	return { carried, faults };
}
