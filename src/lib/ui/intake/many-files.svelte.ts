import { unzipSync } from 'fflate';
import {
	fileKind,
	likeliestDevices,
	type BundleImport,
	type FileInspection,
	type FileKind,
	type FilePart
} from '../../core/drawer';
import { factsFromProfile } from '../../core/gear';
import type { Profile } from '../../core/profile';
import { call } from '../../hardware/api';
import { notices } from '../notices.svelte';
import { refresh } from '../refresh';
import { count, problemOf } from '../words';

/** A file that was brought, or one device's part of it: where it came from, and what becomes of it. */
export interface BroughtFile {
	key: number;
	name: string;
	/** Which part of the file it is, from 1, where that holds dumps of several devices. */
	share: { part: number; of: number } | null;
	/** Folder or archive that it came in; empty for a file by itself. */
	from: string;
	bytes: Uint8Array;
	modified: number;
	kind: FileKind;
	/** What it is, in words; what is wrong with it, where something is. */
	says: string;
	fault: string;
	/** What is known of a dump. */
	part: FilePart | null;
	/** Where it goes: a device, `new <profile>` for one that is added for it, `yes`, or empty to leave it out. */
	target: string;
	state: 'looking' | 'open' | 'taking' | 'taken' | 'failed';
	/** How it went. */
	result: string;
}

const KINDS: Record<FileKind, string> = {
	dump: 'A dump',
	archive: 'An archive',
	bundle: 'A bundle of drawers',
	profile: 'A profile',
	wiring: 'A wiring',
	bank: 'A bank',
	catalogue: 'A list of devices',
	names: 'Names of programs',
	empty: 'An empty file',
	other: 'Nothing that can be kept'
};
/** What is not taken over from here, and where it belongs. */
const ELSEWHERE: Partial<Record<FileKind, string>> = {
	wiring: 'It would replace the whole wiring: import it under Wiring, Sheets.',
	bank: 'Open it under Sounds, Banks.',
	names: 'Names go to a version: import them on its page.',
	empty: 'There is nothing in it.',
	other: 'No dump, list, profile or bundle.'
};
const TAKEN: readonly FileKind[] = ['dump', 'profile', 'catalogue', 'bundle'];
const NEW = 'new ';
/** Asks for a new device of that model; dumps with another device ID are another device's. */
export const newDeviceFor = ({ profileId, deviceId }: FilePart): string =>
	`${NEW}${profileId} ${deviceId ?? ''}`.trim();
/** An archive in an archive in an archive is no folder of dumps any more. */
const DEPTH = 3;
/** The most bytes and files that an archive may hold to be looked at in a browser. */
const EXPANDED = 512 * 1024 * 1024;
const ENTRIES = 20_000;

/** Files and folders that were brought at once: one table of what each is and where it goes, taken over in one step. */
class ManyFiles {
	files = $state.raw<BroughtFile[]>([]);
	busy = $state(false);
	#key = 0;

	get open(): BroughtFile[] {
		return this.files.filter(({ state }) => state === 'open');
	}

	/** What would be taken over. */
	get chosen(): BroughtFile[] {
		return this.open.filter(({ target, fault }) => target !== '' && fault === '');
	}

	/** How many files there are; parts of one count once. */
	get count(): number {
		return this.files.filter(({ share }) => share === null || share.part === 1).length;
	}

	change(key: number, values: Partial<BroughtFile>): void {
		this.files = this.files.map((file) => (file.key === key ? { ...file, ...values } : file));
	}

	clear(): void {
		this.files = [];
	}

	/** Looks at files as they come; archives are opened. @param openId the device whose page is open: likelier than its twins */
	async bring(brought: readonly { file: File; from: string }[], openId?: string): Promise<void> {
		for (const { file, from } of brought)
			await this.#look(
				file.name,
				from,
				new Uint8Array(await file.arrayBuffer()),
				file.lastModified,
				openId,
				0
			);
	}

	async #look(
		name: string,
		from: string,
		bytes: Uint8Array,
		modified: number,
		openId: string | undefined,
		depth: number
	): Promise<void> {
		let entries: Record<string, Uint8Array> = {};
		let fault = '';
		if (bytes[0] === 0x50 && bytes[1] === 0x4b)
			try {
				let expanded = 0;
				let count = 0;
				entries = unzipSync(bytes, {
					filter: ({ originalSize }) => {
						expanded += originalSize;
						if (expanded <= EXPANDED && ++count <= ENTRIES) return true;
						fault = 'The archive holds more than can be looked at at once: take it apart first.';
						return false;
					}
				});
			} catch {
				// Said in its row; the other files go on.
				fault = 'The archive is damaged: it cannot be opened.';
			}
		const kind = fileKind(bytes, Object.keys(entries));
		if (kind === 'archive' && fault === '' && depth < DEPTH) {
			for (const [path, content] of Object.entries(entries))
				if (!path.endsWith('/')) {
					const parts = path.split('/');
					const inside = [from, name, ...parts.slice(0, -1)].filter(Boolean).join('/');
					await this.#look(parts.at(-1)!, inside, content, modified, openId, depth + 1);
				}
			return;
		}
		const file: BroughtFile = {
			key: ++this.#key,
			name,
			from,
			bytes,
			modified,
			kind,
			says: KINDS[kind],
			fault: fault || (ELSEWHERE[kind] ?? ''),
			share: null,
			part: null,
			target: fault || !TAKEN.includes(kind) ? '' : 'yes',
			state: 'looking',
			result: ''
		};
		this.files = [...this.files, file];
		if (kind === 'dump') await this.#inspect(file, openId);
		else if (kind === 'catalogue') await this.#preview(file);
		this.change(file.key, { state: 'open' });
	}

	async #inspect(file: BroughtFile, openId: string | undefined): Promise<void> {
		try {
			const { parts } = await call<FileInspection>('POST', '/files/inspect', formOf(file));
			const rows = parts.map((part, i): BroughtFile => {
				const likely = likeliestDevices(part.devices, openId);
				const several = parts.length > 1;
				return {
					...file,
					key: i === 0 ? file.key : ++this.#key,
					share: several ? { part: i + 1, of: parts.length } : null,
					part,
					says: part.slots
						? `A dump of a ${part.title}${several && part.deviceId !== null ? ` with device ID ${part.deviceId} on the wire` : ''}, ${count(part.slots.held, 'slot')}`
						: `A dump that no profile knows, ${count(part.messages.length, 'message')}`,
					fault: part.fault,
					// What is kept already is not kept twice unless somebody says so; of raw messages nothing says whose they are,
					// however few devices are kept raw.
					target:
						part.already.length > 0 || part.profileId === null
							? ''
							: likely.length === 1
								? likely[0].id
								: likely.length === 0
									? newDeviceFor(part)
									: ''
				};
			});
			this.files = this.files.flatMap((one) => (one.key === file.key ? rows : [one]));
			for (const { key } of rows) this.change(key, { state: 'open' });
		} catch (error) {
			this.change(file.key, { fault: problemOf(error).message });
		}
	}

	async #preview(file: BroughtFile): Promise<void> {
		try {
			const { rows, faults } = await call<{ rows: { device: unknown; known: boolean }[]; faults: string[] }>(
				'POST',
				'/catalogue/preview',
				{ text: new TextDecoder().decode(file.bytes) }
			);
			const fresh = rows.filter(({ device, known }) => device !== null && !known).length;
			const faulty = rows.filter(({ device }) => device === null).length;
			this.change(file.key, {
				says: `A list of ${count(rows.length, 'device')}: ${fresh} new${faulty > 0 ? `, ${faulty} faulty` : ''}`,
				fault: faults[0] ?? (fresh === 0 ? 'All that can be read of it is in the catalogue already.' : '')
			});
		} catch (error) {
			this.change(file.key, { fault: problemOf(error).message });
		}
	}

	/** Takes over what is chosen, file by file; what goes wrong with one stops none of the others. */
	async take(): Promise<void> {
		if (this.busy) return;
		this.busy = true;
		const versions: string[] = [];
		const devices: string[] = [];
		let kept = 0;
		let others = 0;
		for (const { key } of this.chosen) {
			// As it is now: an earlier file may have added the device that this one goes to.
			const file = this.files.find((one) => one.key === key)!;
			this.change(file.key, { state: 'taking' });
			try {
				const result = await this.#take(file, versions, devices);
				kept++;
				if (file.kind !== 'dump') others++;
				this.change(file.key, { state: 'taken', result });
			} catch (error) {
				const { message, remedy } = problemOf(error);
				this.change(file.key, { state: 'failed', result: `${message} ${remedy}` });
			}
		}
		this.busy = false;
		await refresh();
		if (kept === 0) return;
		notices.say(`${count(kept, 'file')} taken over.`, 'good', {
			title: others === 0 ? 'Undo' : 'Undo as far as possible',
			way: {
				by: 'calls',
				calls: [
					...versions.map((id) => ({ method: 'DELETE' as const, path: `/versions/${id}` })),
					...devices.map((id) => ({ method: 'DELETE' as const, path: `/devices/${id}` }))
				],
				says: `Undone: ${count(versions.length, 'version')} let go${devices.length > 0 ? `, ${count(devices.length, 'device')} archived` : ''}.${others > 0 ? ` Profiles, lists and bundles stay: ${others}.` : ''}`
			}
		});
	}

	async #take(file: BroughtFile, versions: string[], devices: string[]): Promise<string> {
		if (file.kind === 'profile') {
			const { revision } = await call<{ revision: number }>(
				'POST',
				'/profiles',
				JSON.parse(new TextDecoder().decode(file.bytes))
			);
			return `kept as revision ${revision}`;
		}
		if (file.kind === 'catalogue') {
			const text = new TextDecoder().decode(file.bytes);
			const { rows } = await call<{ rows: { line: number; device: unknown; known: boolean }[] }>(
				'POST',
				'/catalogue/preview',
				{ text }
			);
			const lines = rows.filter(({ device, known }) => device !== null && !known).map(({ line }) => line);
			const { added } = await call<{ added: number }>('POST', '/catalogue/import', { text, lines });
			return `${count(added, 'device')} added`;
		}
		if (file.kind === 'bundle') {
			const { left, differ } = await call<BundleImport>('POST', '/bundle', formOf(file));
			return [
				'taken over',
				left.length > 0 ? `${count(left.length, 'thing')} left out: import it under Care to see why` : '',
				differ.length > 0
					? `${count(differ.length, 'thing')} differ and stay as they are here: import it under Care to choose`
					: ''
			]
				.filter(Boolean)
				.join('; ');
		}
		let deviceId = file.target;
		if (deviceId.startsWith(NEW)) {
			const { profileId, deviceId: wire } = file.part!;
			const profile = await call<Profile>('GET', `/profiles/${encodeURIComponent(profileId!)}`);
			const facts = factsFromProfile(profile, profile.model);
			({ id: deviceId } = await call<{ id: string }>('POST', '/devices', {
				...facts,
				deviceId: wire ?? facts.deviceId
			}));
			devices.push(deviceId);
			// What else is of this model and ID goes to the same new device.
			for (const other of this.open)
				if (other.target === file.target) this.change(other.key, { target: deviceId });
		}
		const form = formOf(file);
		if (file.share) form.set('parts', JSON.stringify([{ deviceId, messages: file.part!.messages }]));
		else form.set('deviceId', deviceId);
		form.set('takenAt', new Date(file.modified).toISOString());
		if (file.from) form.set('note', `From ${file.from}`.slice(0, 2000));
		const kept = await call<{ id: string } | { id: string }[]>('POST', '/files/store', form);
		versions.push(...[kept].flat().map(({ id }) => id));
		return 'kept';
	}
}

function formOf({ bytes, name }: BroughtFile): FormData {
	const form = new FormData();
	form.set('file', new File([Uint8Array.from(bytes)], name));
	return form;
}

export const manyFiles = new ManyFiles();
