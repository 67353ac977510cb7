import { browser } from '$app/environment';
import { lineTo, type Checked, type Line } from '../core/contact';
import { problemOf, type ProblemData } from '../core/problem';
import type { TransferReport } from '../core/transfer';
import { call } from './api';
import { desk } from './desk.svelte';
import { midiDesk } from './midi-desk.svelte';
import { isTabThere } from './tab';
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
	/** Says that what was begun is to be stopped. */
	#stopping = new AbortController();
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

	/** How long what can begin takes, in ms of this world's clock. */
	expectedMs(rows: readonly TrayRow[]): number {
		return rows.reduce((sum, row) => sum + (this.checkOf(row)?.checked?.expectedMs ?? 0), 0) / desk.factor;
	}

	/** Begins these rows: ports side by side, restores one after another, places in walking order. */
	async go(keys: readonly string[]): Promise<void> {
		if (this.going) return;
		const chosen = this.openRows.filter((row) => keys.includes(row.key) && this.holdOf(row) === null);
		if (chosen.length === 0) return;
		this.going = true;
		this.problem = null;
		this.snapshotId = null;
		this.#stopping = new AbortController();
		try {
			// Fetched when something is transferred first.
			const { runRows } = await import('./tray-run');
			await runRows(this, chosen, this.#stopping.signal);
		} catch (error) {
			this.problem = problemOf(error).toJSON();
		}
		this.going = false;
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
		this.#stopping.abort();
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
