/** Lets the browser save text or bytes as a file. */
export function saveFile(name: string, content: string | readonly Uint8Array[], type: string): void {
	const url = URL.createObjectURL(
		new Blob(typeof content === 'string' ? [content] : ([...content] as BlobPart[]), { type })
	);
	const link = document.createElement('a');
	link.href = url;
	link.download = name;
	link.click();
	URL.revokeObjectURL(url);
}
