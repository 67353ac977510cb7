/** Addresses from before the stages were laid out anew, and where they lead on to. */
const MOVED: readonly [from: RegExp, to: string][] = [
	[/^\/find(?=\/|$)/, '/sounds'],
	[/^\/transfers\/(banks|snapshots)(?=\/|$)/, '/sounds/$1'],
	[/^\/transfers\/families$/, '/sounds/look-alikes'],
	[/^\/transfers\/keeping$/, '/care'],
	[/^\/bench$/, '/transfers/bench'],
	[/^\/workshop$/, '/gear/workshop'],
	[/^\/wiring\/trace$/, '/wiring/problems'],
	[/^\/wiring\/returns$/, '/wiring/host'],
	[/^\/wiring\/timing$/, '/wiring/plan#timing']
];

/** Where an old address leads on to with its query, or null for one that still is what it was. */
export function movedTo(pathname: string, search = ''): string | null {
	const entry = MOVED.find(([from]) => from.test(pathname));
	if (!entry) return null;
	const [path, part] = pathname.replace(entry[0], entry[1]).split('#');
	return `${path}${search}${part ? `#${part}` : ''}`;
}
