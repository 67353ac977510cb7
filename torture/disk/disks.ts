import { spawnSync } from 'node:child_process';
import { mkdirSync, renameSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { between, pick, type Random } from '../../src/lib/core/bench';

const root = fileURLToPath(new URL('../..', import.meta.url));

/** A disk that can run full while something is written to it. */
export interface Disk {
	folder: string;
	/** What a process needs in its environment to find it so. */
	env: Record<string, string>;
	fill(): void;
	empty(): void;
	remove(): void;
}

/** How a disk refuses to store: no room, no room left of a quota, or it is broken. */
export const REFUSALS = ['ENOSPC', 'EDQUOT', 'EIO'] as const;
export type Refusal = (typeof REFUSALS)[number];

const SIZE_MB = 12;

/** A memory disk of a few megabytes, filled by a file; null where this machine does not let one be mounted. */
export function memoryDisk(within: string): Disk | null {
	const folder = join(within, 'disk');
	mkdirSync(folder, { recursive: true });
	if (spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${SIZE_MB}m`, 'tmpfs', folder]).status !== 0)
		return null;
	const ballast = join(folder, 'ballast');
	return {
		folder,
		env: {},
		fill() {
			const { bavail, bsize } = statfsSync(folder);
			try {
				writeFileSync(ballast, Buffer.alloc(Number(bavail) * Number(bsize)));
			} catch {
				// Full to the last byte.
			}
		},
		empty: () => rmSync(ballast, { force: true }),
		remove: () => void spawnSync('umount', [folder])
	};
}

/** A folder whose disk a process finds failing, by what is loaded before the system's own calls. */
export interface FailingDisk extends Disk {
	/** From so many writes on it refuses in that way, until it is emptied. */
	failAfter(writes: number, refusal: Refusal): void;
}

/** The most writes that are still stored before it fails, where it is only said that it fills. */
const SOON = 30;

/** A stand-in of a failing disk; null where there can be none. */
export function failingDisk(folder: string, random: Random): FailingDisk | null {
	const library = standIn('failing');
	if (library === null) return null;
	mkdirSync(folder, { recursive: true });
	const order = join(dirname(folder), 'failing-order');
	const failAfter = (writes: number, refusal: Refusal) => {
		// Another file each time: it is seen to be new, and whole.
		writeFileSync(`${order}.new`, `${refusal} ${writes}\n`);
		renameSync(`${order}.new`, order);
	};
	const empty = () => rmSync(order, { force: true });
	return {
		folder,
		env: { LD_PRELOAD: library, DRAWER_DISK_FOLDER: folder, DRAWER_FAILING_ORDER: order },
		failAfter,
		fill: () => failAfter(between(random, 0, SOON), pick(random, REFUSALS)),
		empty,
		remove() {
			empty();
			rmSync(folder, { recursive: true, force: true });
		}
	};
}

const compiled = new Map<string, string | null>();
/** What is loaded before the system's own calls, compiled as sqlite3 is; null where this machine has no compiler, or no Linux. */
export function standIn(name: 'failing' | 'traced'): string | null {
	if (process.platform !== 'linux') return null;
	const had = compiled.get(name);
	if (had !== undefined) return had;
	const library = join(root, 'node_modules', '.cache', `drawer-disk-${name}.so`);
	mkdirSync(dirname(library), { recursive: true });
	const source = join(root, 'torture', 'disk', `${name}.c`);
	const { status } = spawnSync(
		'cc',
		['-shared', '-fPIC', '-O1', '-Wall', '-Wextra', '-Werror', '-o', library, source, '-ldl', '-lpthread'],
		{ stdio: 'inherit' }
	);
	const made = status === 0 ? library : null;
	compiled.set(name, made);
	return made;
}
