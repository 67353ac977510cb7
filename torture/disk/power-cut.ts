import { readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { between, pick, type Random } from '../../src/lib/core/bench';
import { isDone } from '../deed-names';
import type { BrokenOff, Trial } from '../deeds';
import type { Template } from '../template';
import { standIn } from './disks';

/** What a process had of its disk, as `traced.c` notes it. */
interface Noted {
	kind: string;
	number: number;
	path: string;
	bytes: Buffer;
}

/** What all processes see in memory is made anew after a cut. */
const isShared = (path: string): boolean => path.endsWith('-shm');

/** @throws Error where it is not what `traced.c` writes */
function readTrace(bytes: Buffer): Noted[] {
	const noted: Noted[] = [];
	for (let at = 0; at < bytes.length;) {
		const end = bytes.indexOf(0x0a, at);
		const line = bytes.toString('utf8', at, end).match(/^(\w) (\d+) (\d+) (.+)$/);
		if (!line) throw new Error(`No record at ${at} of the trace.`);
		const [, kind, number, length, path] = line;
		at = end + 1 + Number(length);
		noted.push({ kind, number: Number(number), path, bytes: bytes.subarray(end + 1, at) });
	}
	return noted;
}

/** One file: what is on the disk, and what is on its way there. */
class File {
	private held: Buffer;
	private size: number;
	private pending: Noted[] = [];

	constructor(bytes: Buffer) {
		this.held = Buffer.from(bytes);
		this.size = bytes.length;
	}

	take(noted: Noted): void {
		this.pending.push(noted);
	}

	/** What is on its way arrives, as far as it is said to. */
	settle(arrives: () => boolean): void {
		for (const { kind, number, bytes } of this.pending.filter(arrives)) {
			const end = kind === 'W' ? number + bytes.length : number;
			if (end > this.held.length) this.held = Buffer.concat([this.held], end * 2);
			if (kind === 'W') bytes.copy(this.held, number);
			else this.held.fill(0, end);
			this.size = kind === 'W' ? Math.max(this.size, end) : end;
		}
		this.pending = [];
	}

	get bytes(): Buffer {
		return this.held.subarray(0, this.size);
	}
}

/** What is left of a folder if the power is cut after so many records: what was waited for, and of the rest whatever chance left. */
function leftOf(before: Map<string, Buffer>, records: Noted[], random: Random): Map<string, Buffer> {
	const files = new Map([...before].map(([path, bytes]) => [path, new File(bytes)]));
	const file = (path: string) => {
		const there = files.get(path) ?? new File(Buffer.alloc(0));
		files.set(path, there);
		return there;
	};
	for (const noted of records) {
		const { kind, path } = noted;
		if (kind === 'W' || kind === 'T') file(path).take(noted);
		else if (kind === 'O') file(path);
		else if (kind === 'S') file(path).settle(() => true);
		else if (kind === 'U') files.delete(path);
		else if (kind === 'R') {
			files.set(noted.bytes.toString(), file(path));
			files.delete(path);
		}
	}
	// Of what nobody waited for some came, in any order.
	const all = random() < 0.15;
	const none = !all && random() < 0.15;
	for (const file of files.values()) file.settle(() => all || (!none && pick(random, [true, false])));
	return new Map([...files].map(([path, { bytes }]) => [path, bytes]));
}

/**
 * Cuts the power in the middle of a deed: it is carried out once, on a disk that notes what was written and waited for, and
 * what a cut would leave is worked out and opened, again and again. Null where no disk can be noted here.
 */
export async function cutIn(
	trial: Trial,
	template: Template,
	random: Random,
	untilMs: number
): Promise<BrokenOff | null> {
	const library = standIn('traced');
	if (library === null) return null;
	const told: BrokenOff = { rounds: 0, hit: 0, faults: [] };
	const file = trial.fresh('traced');
	const folder = dirname(file);
	const contents = () =>
		new Map(
			readdirSync(folder)
				.filter((name) => !isShared(name))
				.map((name) => [join(folder, name), readFileSync(join(folder, name))])
		);
	const before = contents();
	const trace = join(template.folder, 'trace');
	rmSync(trace, { force: true });
	const env = { LD_PRELOAD: library, DRAWER_DISK_FOLDER: folder, DRAWER_DISK_TRACE: trace };
	const { done, errors } = await trial.carryOut(file, { env });
	if (!done) throw new Error(`${trial.deed} cannot be done on a disk that is noted: ${errors}`);
	const records = readTrace(readFileSync(trace)).filter(({ path }) => !isShared(path));
	const saidIn = (some: Noted[]) =>
		some
			.filter(({ kind }) => kind === 'A')
			.map(({ bytes }) => bytes.toString())
			.join('');
	// What is worked out must be what is there, or it shows nothing.
	const there = contents();
	const settled = [
		...records,
		...[...there.keys()].map((path) => ({ kind: 'S', number: 0, path, bytes: Buffer.alloc(0) }))
	];
	for (const [path, bytes] of leftOf(before, settled, random))
		if (!there.get(path)?.equals(bytes))
			told.faults.push(`${trial.deed}: the trace does not tell ${basename(path)}`);
	do {
		const at = between(random, 0, records.length);
		for (const name of readdirSync(folder)) rmSync(join(folder, name));
		const had = records.slice(0, at);
		for (const [path, bytes] of leftOf(before, had, random)) writeFileSync(path, bytes);
		const said = saidIn(had);
		told.rounds++;
		if (!isDone(said)) told.hit++;
		told.faults.push(
			...(await trial.judge(file, said)).map((says) => `${says} (power cut after ${at} of ${records.length})`)
		);
	} while (performance.now() < untilMs);
	rmSync(folder, { recursive: true, force: true });
	return told;
}
