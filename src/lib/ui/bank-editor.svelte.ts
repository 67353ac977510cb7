import { untrack } from 'svelte';
import type { BankDocument } from '../core/drawer';
import { Problem } from '../core/problem';
import { call } from '../hardware/api';
import type { Bank } from '../core/drawer';

const SAVE_MS = 350;
const STEPS = 200;

/** A bank while it is worked on: every change can be undone, and is stored soon after. */
export class BankEditor {
	document = $state.raw<BankDocument>(null as unknown as BankDocument);
	saved = $state<'saved' | 'saving' | 'not saved'>('saved');
	problem = $state.raw<{ message: string; remedy: string } | null>(null);
	#past = $state.raw<BankDocument[]>([]);
	#future = $state.raw<BankDocument[]>([]);
	#revision: number;
	#timer: ReturnType<typeof setTimeout> | null = null;
	#storing: Promise<void> = Promise.resolve();

	constructor(private readonly bank: Bank) {
		this.document = bank.document;
		this.#revision = bank.revision;
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
		if (this.#timer) clearTimeout(this.#timer);
		this.#timer = setTimeout(() => void this.store(), SAVE_MS);
	}

	/** Stores what is not stored yet; resolves when all of it is. */
	store(): Promise<void> {
		if (this.#timer) clearTimeout(this.#timer);
		this.#timer = null;
		this.#storing = this.#storing.then(async () => {
			if (untrack(() => this.saved) === 'saved') return;
			const { document } = this;
			try {
				const bank = await call<Bank>('PUT', `/banks/${this.bank.id}`, {
					revision: this.#revision,
					document
				});
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
}
