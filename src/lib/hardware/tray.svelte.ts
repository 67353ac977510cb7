import { browser } from '$app/environment';
import { lineTo, type Checked, type Line } from '../core/contact';
import { problemOf, type ProblemData } from '../core/problem';
import { linesOf, type Candidate } from '../core/rig';
import { runLanes, walkOrder, type Job, type TransferReport } from '../core/transfer';
import { call } from './api';
import { desk } from './desk.svelte';
import { midiDesk } from './midi-desk.svelte';
import { planStudio } from './plan-studio';
import type { SessionState } from './session-state';
import { isTabThere, tabId } from './tab';
import type { TrayRow } from './tray-row';
import { keepRows, keptRows, TRAY_KEY } from './tray-rows';

/** What a row is judged by before it begins, or why that is not known. */
export type RowCheck = ({ checked: Checked; problem: null } | { checked: null; problem: ProblemData }) & {
	/** What was asked of the server: another choice, world or pace makes it an older answer. */
	question: string;
};

/** Why a row cannot begin as it stands; null where it can. */
export interface Hold {
	says: string;
	/** A tick that is missing is the musician's; anything else is the line's, or the source's. */
	kind: 'ticks' | 'line' | 'check';
}

const OPEN_KEY = 'silent-drawer.tray-open';
const SELECTED_KEY = 'silent-drawer.tray-row';
/** How often it is looked what became of a transfer whose page is gone, in ms. */
const LOOK_MS = 1500;

interface RowJob extends Job {
	row: TrayRow;
}

/** What the server is asked about a row, in this world. */
const questionOf = ({ ask, pace }: Pick<TrayRow, 'ask' | 'pace'>): string =>
	`/transfers/check?${ask}&world=${desk.world}&pace=${pace}`;

/** How a report ends a row, in one line; set by the interface, whose words they are. */
type OutcomeWords = (name: string, report: TransferReport) => { says: string; good: boolean };

/** The tray: everything that is to be transferred, is being transferred, or was; on every page, over reloads, in all tabs. */
class Tray {
	rows = $state.raw<TrayRow[]>([]);
	#open = $state(false);
	#selectedKey = $state<string | null>(null);
	/** Checks of the rows, by key. */
	checks = $state.raw<Readonly<Record<string, RowCheck>>>({});
	/** Title of the snapshot that a backup of several devices makes. */
	snapshotTitle = $state('');
	/** Where the musician stands: the walk begins there. */
	here = $state('');
	/** Rows are being carried out by this tab. */
	going = $state(false);
	/** The snapshot that the last backup of several devices made. */
	snapshotId = $state<string | null>(null);
	problem = $state.raw<ProblemData | null>(null);
	/** Counts what was added: the page brings the tray into focus. */
	added = $state(0);
	wordsOf: OutcomeWords = (name, { status }) => ({ says: `${name}: ${status}`, good: false });
	#stop: (() => void) | null = null;
	/** Ends when the rows that are kept are read. */
	#read: Promise<void> = Promise.resolve();

	/** Whether it is unfolded, and on what: this tab's own, kept over its reloads. */
	get open(): boolean {
		return this.#open;
	}
	set open(open: boolean) {
		this.#open = open;
		sessionStorage.setItem(OPEN_KEY, open ? '1' : '');
	}

	get selected(): TrayRow | null {
		return this.rows.find(({ key }) => key === this.#selectedKey) ?? this.rows[0] ?? null;
	}

	select(key: string): void {
		this.#selectedKey = key;
		sessionStorage.setItem(SELECTED_KEY, key);
	}

	get openRows(): TrayRow[] {
		return this.rows.filter(({ state }) => state === 'open');
	}

	#row = (key: string): TrayRow | undefined => this.rows.find((row) => row.key === key);

	checkOf = (row: TrayRow): RowCheck | null => this.checks[row.key] ?? null;

	/** The line of a row as it is at this moment. */
	lineOf(checked: Checked): Line {
		const contact = checked.line.contacts.find(({ world }) => world === desk.world) ?? null;
		return lineTo({ ...checked.line, contact, world: desk.world, ports: midiDesk.sockets });
	}

	/** What keeps a row from beginning. */
	holdOf(row: TrayRow): Hold | null {
		const check = this.checkOf(row);
		if (check?.question !== questionOf(row)) return { says: 'It is being looked at.', kind: 'check' };
		if (!check.checked) return { says: check.problem.message, kind: 'check' };
		const { checked } = check;
		const line = this.lineOf(checked);
		if (!line.open) return { says: line.gap?.says ?? '', kind: 'line' };
		if (checked.check && checked.check.dry && checked.check.dry.impossible.length > 0)
			return {
				says: `It does not take ${checked.check.dry.impossible.join(', ')} in this way.`,
				kind: 'check'
			};
		const open = this.ticksOf(checked).filter(({ id }) => !row.ticked.includes(id));
		return open.length > 0
			? {
					says: `${open.length === 1 ? 'One thing' : `${open.length} things`} to look at on its panel.`,
					kind: 'ticks'
				}
			: null;
	}

	/** What the musician looks at on the panel: the profile's own words; of a raw device, that a dump can be started. */
	ticksOf({ check, direction }: Checked): { id: string; says: string; forgets: boolean }[] {
		if (check) return check.checks;
		return direction === 'restore'
			? [
					{
						id: 'raw-receive',
						says: 'Memory protect is off and SysEx receive is on, where it has them.',
						forgets: false
					}
				]
			: [];
	}

	#put(rows: TrayRow[]): void {
		this.rows = rows;
		keepRows(rows);
	}

	change(key: string, values: Partial<TrayRow>): void {
		this.#put(this.rows.map((row) => (row.key === key ? { ...row, ...values } : row)));
	}

	/** Reads what is kept, and what has become of what ran when this tab was left. */
	async recall(): Promise<void> {
		this.#read = keptRows().then((rows) => {
			this.rows = rows;
		});
		this.#open = sessionStorage.getItem(OPEN_KEY) === '1';
		this.#selectedKey = sessionStorage.getItem(SELECTED_KEY);
		addEventListener('storage', (event) => {
			if (event.key === TRAY_KEY) void keptRows().then((rows) => (this.rows = rows));
		});
		await this.#read;
		await this.#settleAll();
		setInterval(() => void this.#settleAll(), LOOK_MS);
	}

	/** Looks what became of rows of tabs that are gone. */
	async #settleAll(): Promise<void> {
		for (const row of this.rows) {
			if (row.state !== 'waiting' && row.state !== 'running') continue;
			if (desk.runOf(row.transferId ?? '') || (await isTabThere(row.owner))) continue;
			if (row.state === 'running') await this.#settle(row);
			else this.change(row.key, { state: 'over', says: `${row.name} was not begun: its page went away.` });
		}
	}

	/** Judges again everything that waits to begin: something was learnt meanwhile. */
	async lookAgain(): Promise<void> {
		await Promise.all(this.openRows.map((row) => this.check(row)));
	}

	/** A transfer whose page is gone: what the server knows of it. */
	async #settle(row: TrayRow): Promise<void> {
		if (!row.transferId)
			return this.change(row.key, { state: 'over', says: 'It was not begun: its page went away.' });
		try {
			const { status } = await call<{ status: string }>('GET', `/transfers/${row.transferId}`);
			if (status === 'running') return;
			this.change(row.key, {
				state: 'over',
				says:
					status === 'unfinished'
						? `${row.name}: its page went away in the middle.`
						: `${row.name}: it ended as “${status}”.`
			});
		} catch (error) {
			this.change(row.key, { state: 'over', says: problemOf(error).message });
		}
	}

	/** Judges a row anew: by this world, and by what is known now. */
	async check({ key }: TrayRow): Promise<void> {
		const row = this.#row(key);
		if (!row) return;
		const question = questionOf(row);
		let check: RowCheck;
		try {
			check = { question, checked: await call<Checked>('GET', question), problem: null };
		} catch (error) {
			check = { question, checked: null, problem: problemOf(error).toJSON() };
		}
		const now = this.#row(key);
		// An answer to an older question may come last.
		if (now && questionOf(now) === question) this.checks = { ...this.checks, [key]: check };
	}

	/**
	 * Puts transfers into the tray, each asked for by a query of `/transfers/check`. One that waits there already is not put in
	 * twice, and a device that is busy is shown as it is.
	 * @throws Problem where the first of them cannot be looked at at all
	 */
	async add(asks: readonly string[]): Promise<void> {
		// What is kept would be written over by rows that come before it is read.
		await this.#read;
		let first: string | null = null;
		for (const ask of asks) {
			const known = this.openRows.find((row) => row.ask === ask);
			const key = known?.key ?? crypto.randomUUID();
			if (known) {
				await this.check(known);
				first ??= key;
			} else {
				const question = questionOf({ ask, pace: 1 });
				const checked = await call<Checked>('GET', question);
				const { device, direction } = checked;
				const busy = this.rows.find(
					({ deviceId, state }) => deviceId === device.id && (state === 'running' || state === 'waiting')
				);
				if (busy) {
					first ??= busy.key;
					continue;
				}
				first ??= key;
				this.checks = { ...this.checks, [key]: { question, checked, problem: null } };
				this.#put([
					// What is over with this device has been seen.
					...this.rows.filter(
						(row) => row.deviceId !== device.id || row.state !== 'over' || !this.isLoose(row)
					),
					{
						key,
						ask,
						deviceId: device.id,
						name: device.name,
						place: device.place,
						direction,
						state: 'open',
						owner: '',
						transferId: null,
						says: '',
						good: false,
						ticked: [],
						setBack: [],
						owes: [],
						title: '',
						reason: 'routine',
						pace: 1,
						twice: true
					}
				]);
			}
		}
		if (first) this.select(first);
		this.open = true;
		this.added++;
	}

	/** Whether a row may be taken out: it does not run, and its panel is set back. */
	isLoose = ({ state, owes }: TrayRow): boolean =>
		state === 'open' || (state === 'over' && owes.length === 0);

	remove(key: string): void {
		this.#put(this.rows.filter((row) => row.key !== key || !this.isLoose(row)));
	}

	/** Takes everything out that is over, as far as its panel is set back. */
	clear(): void {
		this.#put(this.rows.filter((row) => row.state !== 'over' || !this.isLoose(row)));
		if (this.rows.length === 0) this.open = false;
	}

	/** Another choice of what is wanted: the row is looked at again. */
	async ask(row: TrayRow, ask: string): Promise<void> {
		this.change(row.key, { ask });
		await this.check(row);
	}

	#jobOf(row: TrayRow): RowJob {
		const { checked } = this.checkOf(row)!;
		const { line, expectedMs, check } = checked!;
		const lanes =
			desk.world === 'bench' ? [`unit ${line.unit?.id}`] : linesOf(line.way ?? { out: null, in: null });
		return {
			row,
			id: row.key,
			// Restores go one after another: whoever stops them knows what was touched.
			lanes: row.direction === 'restore' ? [...lanes, 'restores'] : lanes,
			hands: check?.byHand ?? row.direction === 'capture',
			expectedMs
		};
	}

	/** How long what can begin takes, in ms of this world's clock. */
	expectedMs(rows: readonly TrayRow[]): number {
		return rows.reduce((sum, row) => sum + (this.checkOf(row)?.checked?.expectedMs ?? 0), 0) / desk.factor;
	}

	/** Begins these rows: ports side by side, restores one after another, places in walking order. */
	async go(keys: readonly string[]): Promise<void> {
		if (this.going) return;
		const chosen = this.openRows.filter((row) => keys.includes(row.key) && this.holdOf(row) === null);
		const rows = walkOrder(
			chosen.map((row) => ({ ...row, id: row.key })),
			[...new Set(chosen.map(({ place }) => place))].sort(),
			this.here
		);
		if (rows.length === 0) return;
		this.going = true;
		this.problem = null;
		this.snapshotId = null;
		const began = performance.now();
		let snapshot: string | null = null;
		const captures = rows.filter(({ direction }) => direction === 'capture');
		try {
			if (captures.length > 1) snapshot = await this.#snapshot(captures);
		} catch (error) {
			this.problem = problemOf(error).toJSON();
			this.going = false;
			return;
		}
		for (const { key } of rows) this.change(key, { state: 'waiting', owner: tabId, says: '' });
		const jobs = rows.map((row) => this.#jobOf(row));
		await new Promise<void>((ended) => {
			this.#stop = runLanes(jobs, (job, over) => void this.#run(job.row, snapshot).finally(over), ended);
		});
		this.#stop = null;
		for (const { key, name } of rows)
			if (this.rows.find((row) => row.key === key)?.state === 'waiting')
				this.change(key, { state: 'over', says: `${name} was not begun: nothing of it was touched.` });
		if (snapshot) {
			await call('POST', `/snapshots/${snapshot}/end`, {
				tookMs: (performance.now() - began) * desk.factor
			}).catch((error: unknown) => (this.problem = problemOf(error).toJSON()));
			this.snapshotId = snapshot;
			this.snapshotTitle = '';
		}
		this.going = false;
	}

	/** Begins the snapshot that a backup of several devices makes; what is not in it is named with the reason. */
	async #snapshot(captures: readonly TrayRow[]): Promise<string> {
		const { candidates, places } = await call<{ candidates: Candidate[]; places: string[] }>(
			'GET',
			`/snapshots/candidates?world=${desk.world}`
		);
		const chosen = new Set(captures.map(({ deviceId }) => deviceId));
		const whole = planStudio(candidates, places, desk.world, this.here);
		const plan = planStudio(
			candidates.filter(({ device }) => chosen.has(device.id)),
			places,
			desk.world,
			this.here
		);
		const { id } = await call<{ id: string }>('POST', '/snapshots', {
			title: this.snapshotTitle.trim(),
			note: '',
			world: desk.world,
			predictedMs: plan.predictedMs,
			devices: captures.map(({ deviceId }) => ({
				id: deviceId,
				predictedMs: plan.jobs.find((job) => job.id === deviceId)?.expectedMs ?? 0
			})),
			left: [
				...whole.left.map(({ id: device, why }) => ({ id: device, why })),
				...whole.jobs.map(({ id: device }) => ({ id: device, why: 'It was not chosen.' }))
			].filter(({ id: device }) => !chosen.has(device))
		});
		return id;
	}

	async #run(row: TrayRow, snapshotId: string | null): Promise<void> {
		const { checked } = this.checkOf(row)!;
		const { source, scope, version, wireMs, direction } = checked!;
		const asked = new URLSearchParams(row.ask);
		const resume = asked.get('resume');
		try {
			const { transferId, ended } = await desk.begin({
				direction,
				deviceId: row.deviceId,
				scope,
				kind: direction === 'restore' ? 'after restore' : row.reason,
				title: row.title.trim(),
				versionId: version?.id ?? null,
				source,
				snapshotId: direction === 'capture' ? (snapshotId ?? asked.get('snapshot')) : null,
				predictedMs: wireMs,
				twice: row.twice,
				resume,
				paceFactor: row.pace
			});
			this.change(row.key, { state: 'running', transferId });
			this.#over(row, await ended);
		} catch (error) {
			const { message, remedy } = problemOf(error);
			this.change(row.key, { state: 'over', says: `${row.name}: ${message} ${remedy}`, good: false });
		}
	}

	#over(row: TrayRow, { ended }: SessionState): void {
		const checks = this.checkOf(row)?.checked?.check?.checks ?? [];
		this.change(row.key, {
			state: 'over',
			...(ended ? this.wordsOf(row.name, ended) : {}),
			// What was only looked at, and not written to, may stay as it is.
			owes: ended && ended.touched.length > 0 ? checks.flatMap(({ id, after }) => (after ? [id] : [])) : []
		});
	}

	/** Ticks that the panel was set back, or takes the tick away. */
	setBack(row: TrayRow, id: string, done: boolean): void {
		this.change(row.key, {
			setBack: done ? [...row.setBack, id] : row.setBack.filter((one) => one !== id),
			owes: done ? row.owes.filter((one) => one !== id) : [...row.owes, id]
		});
	}

	/** Stops everything after the message that is out: what runs is called off, what waits is not begun. */
	stop(): void {
		this.#stop?.();
		for (const { state, transferId } of this.rows)
			if (state === 'running' && transferId) desk.cancel(transferId);
	}
}

export const tray = new Tray();

if (browser) {
	void tray.recall();
	addEventListener('beforeunload', (event) => {
		if (desk.runs.length > 0) event.preventDefault();
	});
}
