/** All files of what was dropped, folders opened, each with the folder that it lay in. */
export async function filesOf(items: DataTransferItemList): Promise<{ file: File; from: string }[]> {
	const found: { file: File; from: string }[] = [];
	const walk = async (entry: FileSystemEntry, from: string): Promise<void> => {
		if (entry.isFile) {
			const file = await new Promise<File>((done, failed) =>
				(entry as FileSystemFileEntry).file(done, failed)
			);
			found.push({ file, from });
			return;
		}
		const reader = (entry as FileSystemDirectoryEntry).createReader();
		// A folder is told in parts, until none is left.
		for (;;) {
			const part = await new Promise<FileSystemEntry[]>((done, failed) => reader.readEntries(done, failed));
			if (part.length === 0) return;
			for (const inner of part) await walk(inner, [from, entry.name].filter(Boolean).join('/'));
		}
	};
	// All are taken before the first wait: the list is empty afterwards.
	const dropped = [...items].map((item) => ({ entry: item.webkitGetAsEntry(), file: item.getAsFile() }));
	for (const { entry, file } of dropped)
		if (entry) await walk(entry, '');
		else if (file) found.push({ file, from: '' });
	return found;
}
