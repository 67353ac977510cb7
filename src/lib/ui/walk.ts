/** Moves the focus to the next or previous of `stops` on arrow down or up; at the ends it stays. */
export function walk(event: KeyboardEvent, stops: Iterable<HTMLElement>): void {
	if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
	const list = [...stops];
	const at = list.indexOf(document.activeElement as HTMLElement);
	const next = list[event.key === 'ArrowDown' ? at + 1 : at - 1];
	if (!next) return;
	event.preventDefault();
	next.focus();
}
