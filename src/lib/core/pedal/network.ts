/** Conductance that ties every contact to ground, so that a loose one has a voltage: a resistor of 10⁹ kΩ. */
const LEAK = 1e-9;

/** Contacts that are joined, and resistors between them, towards one ground. */
export class Network {
	readonly #parent = new Map<string, string>();
	readonly #resistors: { a: string; b: string; siemens: number }[] = [];
	readonly #feeds: { at: string; siemens: number }[] = [];

	#root(node: string): string {
		const parent = this.#parent.get(node);
		if (parent === undefined) {
			this.#parent.set(node, node);
			return node;
		}
		if (parent === node) return node;
		const root = this.#root(parent);
		this.#parent.set(node, root);
		return root;
	}

	/** The two are one contact. */
	join(a: string, b: string): void {
		this.#parent.set(this.#root(a), this.#root(b));
	}

	/** A resistor, in kΩ. One of 0 joins them. */
	resist(a: string, b: string, kohm: number): void {
		if (kohm <= 0) this.join(a, b);
		else this.#resistors.push({ a, b, siemens: 1 / kohm });
		this.#root(a);
		this.#root(b);
	}

	/** A supply of 1 behind a resistor, in kΩ. */
	feed(at: string, kohm: number): void {
		this.#feeds.push({ at, siemens: 1 / kohm });
		this.#root(at);
	}

	/**
	 * Voltages as shares of the supply, by Kirchhoff’s current law for every contact that is not ground, and Gaussian
	 * elimination.
	 * @param ground the contact that is 0
	 */
	voltages(ground: string): (node: string) => number {
		const zero = this.#root(ground);
		const nodes = [...new Set([...this.#parent.keys()].map((node) => this.#root(node)))].filter(
			(node) => node !== zero
		);
		const row = new Map(nodes.map((node, i) => [node, i]));
		const matrix = nodes.map((_, i) =>
			Array.from({ length: nodes.length + 1 }, (_, j) => (i === j ? LEAK : 0))
		);
		for (const { a, b, siemens } of this.#resistors) {
			const [i, j] = [row.get(this.#root(a)), row.get(this.#root(b))];
			if (i === j) continue;
			if (i !== undefined) matrix[i][i] += siemens;
			if (j !== undefined) matrix[j][j] += siemens;
			if (i !== undefined && j !== undefined) {
				matrix[i][j] -= siemens;
				matrix[j][i] -= siemens;
			}
		}
		for (const { at, siemens } of this.#feeds) {
			const i = row.get(this.#root(at));
			if (i === undefined) continue;
			matrix[i][i] += siemens;
			matrix[i][nodes.length] += siemens;
		}
		const solved = eliminate(matrix);
		return (node) => {
			const i = row.get(this.#root(node));
			return i === undefined ? 0 : solved[i];
		};
	}
}

/** Solves a system whose rows end with the right-hand side; its matrix dominates its diagonal. */
function eliminate(matrix: number[][]): number[] {
	const size = matrix.length;
	for (let i = 0; i < size; i++)
		for (let k = i + 1; k < size; k++) {
			const factor = matrix[k][i] / matrix[i][i];
			if (factor === 0) continue;
			for (let j = i; j <= size; j++) matrix[k][j] -= factor * matrix[i][j];
		}
	const solved = Array<number>(size).fill(0);
	for (let i = size - 1; i >= 0; i--) {
		let sum = matrix[i][size];
		for (let j = i + 1; j < size; j++) sum -= matrix[i][j] * solved[j];
		solved[i] = sum / matrix[i][i];
	}
	return solved;
}
