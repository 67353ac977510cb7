import { untrack } from 'svelte';
import type { BankDocument } from '../core/drawer';
import { Problem } from '../core/problem';
import { call } from '../hardware/api';
import type { Bank } from '../core/drawer';

const STEPS = 200;

/** A bank while it is worked on: every change can be undone, and is stored at once. */
export class BankEditor {
	/** The bank that this tab has open. */
	static open: BankEditor | null = null;
	document = $state.raw<BankDocument>(null as unknown as BankDocument);
	saved = $state<'saved' | 'saving' | 'not saved'>('saved');
	problem = $state.raw<{ message: string; remedy: string } | null>(null);
	#past = $state.raw<BankDocument[]>([]);
	#future = $state.raw<BankDocument[]>([]);
	#revision: number;
	#storing: Promise<void> = Promise.resolve();
	/** The document that is on its way to the server. */
	#sending: BankDocument | null = null;

	constructor(private readonly bank: Bank) {
		this.document = bank.document;
		this.#revision = bank.revision;
	}

	get id(): string {
		return this.bank.id;
	}
	get revision(): number {
		return this.#revision;
	}
	get canUndo(): boolean {
		return this.#past.length > 0;
	}
	get canRedo(): boolean {
		return this.#future.length > 0;
	}

	/** Makes a change; what the core refuses is shown and changes nothing. */
	change(how: (document: BankDocument) => BankDocument): boolean {
		this.problem = null;
		try {
			const next = how(this.document);
			if (next === this.document) return true;
			this.#past = [...this.#past.slice(-STEPS), this.document];
			this.#future = [];
			this.#show(next);
			return true;
		} catch (error) {
			if (!(error instanceof Problem)) throw error;
			this.problem = { message: error.message, remedy: error.remedy };
			return false;
		}
	}

	undo(): void {
		const before = this.#past.at(-1);
		if (!before) return;
		this.#past = this.#past.slice(0, -1);
		this.#future = [...this.#future, this.document];
		this.#show(before);
	}

	redo(): void {
		const after = this.#future.at(-1);
		if (!after) return;
		this.#future = this.#future.slice(0, -1);
		this.#past = [...this.#past, this.document];
		this.#show(after);
	}

	#show(document: BankDocument): void {
		this.document = document;
		this.saved = 'saving';
		void this.store();
	}

	/** Stores what is not stored yet; resolves when all of it is. */
	store(): Promise<void> {
		this.#storing = this.#storing.then(async () => {
			if (untrack(() => this.saved) === 'saved') return;
			const { document } = this;
			try {
				const bank = await this.#send(document, this.#revision);
				this.#revision = bank.revision;
				if (this.document === document) this.saved = 'saved';
			} catch (error) {
				this.saved = 'not saved';
				this.problem =
					error instanceof Problem
						? { message: error.message, remedy: error.remedy }
						: { message: String(error), remedy: 'Try again.' };
			}
		});
		return this.#storing;
	}

	async #send(document: BankDocument, revision: number): Promise<Bank> {
		this.#sending = document;
		try {
			return await call<Bank>('PUT', `/banks/${this.bank.id}`, { revision, document }, { keepalive: true });
		} finally {
			this.#sending = null;
		}
	}

	/** The page goes away: what the server has not been told yet is sent along. */
	leave(): void {
		if (this.saved === 'saved' || this.#sending === this.document) return;
		// One that is on its way counts the revision up before this one arrives.
		const revision = this.#revision + (this.#sending ? 1 : 0);
		void call(
			'PUT',
			`/banks/${this.bank.id}`,
			{ revision, document: this.document },
			{ keepalive: true }
		).catch(() => undefined);
	}
}
