/** A file that a host or a maker's own editor keeps for a map, as it was on a day. */
export interface KeptFile {
	id: string;
	name: string;
	at: string;
	note: string;
	/** Bytes. */
	size: number;
	/** SHA-256 in hexadecimal. */
	hash: string;
}

/** Files of one name, the newest first: each is a version, and none takes the place of another. */
export function fileVersions(files: readonly KeptFile[]): { name: string; versions: KeptFile[] }[] {
	const names = [...new Set(files.map(({ name }) => name))].sort((a, b) => a.localeCompare(b));
	return names.map((name) => ({ name, versions: files.filter((file) => file.name === name) }));
}
