/** Addresses from before the stages were laid out anew, and where they lead on to. */
const MOVED: readonly [from: RegExp, to: string][] = [
	[/^\/find(?=\/|$)/, '/sounds'],
	[/^\/transfers\/(banks|snapshots)(?=\/|$)/, '/sounds/$1'],
	[/^\/transfers\/families$/, '/sounds/look-alikes'],
	[/^\/transfers\/keeping$/, '/care'],
	[/^\/bench$/, '/transfers/bench'],
	[/^\/workshop$/, '/gear/workshop'],
	[/^\/wiring\/trace$/, '/wiring/problems'],
	[/^\/wiring\/returns$/, '/wiring/host']
];

/** Where an old address leads on to, or null for one that still is what it was. */
export function movedTo(pathname: string): string | null {
	const entry = MOVED.find(([from]) => from.test(pathname));
	return entry ? pathname.replace(entry[0], entry[1]) : null;
}
