/**
 * An id in small letters, digits and hyphens for something with a name, that nothing else has: it is added to `taken`.
 * @param otherwise what it is called where the name holds neither letter nor digit
 */
export function uniqueId(name: string, taken: Set<string>, otherwise: string, most = 40): string {
	const base =
		name
			.toLowerCase()
			.replace(/[^a-z0-9]+/g, '-')
			.replace(/^-|-$/g, '')
			.slice(0, most) || otherwise;
	let id = base;
	for (let n = 2; taken.has(id); n++) id = `${base}-${n}`;
	taken.add(id);
	return id;
}
