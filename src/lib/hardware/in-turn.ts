/** The last work on each port, of this tab. */
const last = new Map<string, Promise<unknown>>();

/** Does works on ports of the computer: two that share a port one after another, all others side by side. */
export function inTurn<T>(ports: readonly string[], work: () => Promise<T>): Promise<T> {
	const done = Promise.allSettled(ports.flatMap((port) => last.get(port) ?? [])).then(work);
	for (const port of ports) last.set(port, done);
	return done;
}
