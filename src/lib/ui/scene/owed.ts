/**
 * What the server is to be told, in the order in which it happened: one after another, never two at a time, and each until it
 * was told. What is not told yet is given to `keep` whenever that changes.
 */
export class Owed<Order extends object> {
	readonly #orders: Order[];
	readonly #tell: (order: Order) => Promise<void>;
	readonly #keep: (orders: readonly Order[]) => void;
	#telling: Promise<void> | null = null;

	/**
	 * @param orders what an earlier page did not come to tell
	 * @param tell tells one; it stays owed where that fails
	 */
	constructor(
		orders: readonly Order[],
		tell: (order: Order) => Promise<void>,
		keep: (orders: readonly Order[]) => void
	) {
		this.#orders = [...orders];
		this.#tell = tell;
		this.#keep = keep;
	}

	get orders(): readonly Order[] {
		return this.#orders;
	}

	/** One more; it is not told by that. */
	add(order: Order): void {
		this.#orders.push(order);
		this.#keep(this.#orders);
	}

	/** What is owed instead of another one. Where that was told already, or is being told, this is told besides. */
	replace(order: Order, by: Order): void {
		const at = this.#orders.indexOf(order);
		this.#orders.splice(at < 0 ? this.#orders.length : at, 1, by);
		this.#keep(this.#orders);
	}

	/** Tells all that is owed, what is added meanwhile too. @throws what telling throws: the rest is told the next time */
	async tell(): Promise<void> {
		while (this.#orders.length > 0)
			// Whoever asks meanwhile waits for the one that is being told.
			await (this.#telling ??= this.#tellFirst().finally(() => (this.#telling = null)));
	}

	async #tellFirst(): Promise<void> {
		const [order] = this.#orders;
		await this.#tell(order);
		const at = this.#orders.indexOf(order);
		if (at >= 0) this.#orders.splice(at, 1);
		this.#keep(this.#orders);
	}
}
