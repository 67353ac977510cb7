import type { Attachment } from 'svelte/attachments';
import { on } from 'svelte/events';

/** The middle of something on the page, px. */
export interface Spot {
	x: number;
	y: number;
}

/** In one row, px: labels of different heights are not in different rows. */
const ROW_PX = 8;

/**
 * Which of many a key leads to: left and right along the rows and on into the next, up and down to the nearest in the next
 * row, Home and End to the ends. In a list (everything below the other) left and right lead nowhere.
 * @returns its place, or null where the key leads nowhere
 */
export function neighbour(spots: readonly Spot[], from: number, key: string): number | null {
	const at = spots[from];
	if (!at) return null;
	const beside = (to: number): number | null =>
		spots.some((spot, i) => i > 0 && Math.abs(spot.y - spots[i - 1].y) < ROW_PX) && spots[to] ? to : null;
	const towards = (sign: 1 | -1): number | null => {
		let best: number | null = null;
		const cost = ({ x, y }: Spot) => [Math.abs(y - at.y), Math.abs(x - at.x)];
		spots.forEach((spot, i) => {
			if ((spot.y - at.y) * sign < ROW_PX) return;
			const [down, across] = cost(spot);
			const [bestDown, bestAcross] = best === null ? [Infinity, Infinity] : cost(spots[best]);
			if (down < bestDown - ROW_PX || (down < bestDown + ROW_PX && across < bestAcross)) best = i;
		});
		return best;
	};
	switch (key) {
		case 'ArrowLeft':
			return beside(from - 1);
		case 'ArrowRight':
			return beside(from + 1);
		case 'ArrowUp':
			return towards(-1);
		case 'ArrowDown':
			return towards(1);
		case 'Home':
			return from === 0 ? null : 0;
		case 'End':
			return from === spots.length - 1 ? null : spots.length - 1;
		default:
			return null;
	}
}

/** Where things lie on the page. */
export const spotsOf = (stops: readonly Element[]): Spot[] =>
	stops.map((stop) => {
		const { left, top, width, height } = stop.getBoundingClientRect();
		return { x: left + width / 2, y: top + height / 2 };
	});

type Stop = HTMLElement | SVGElement;

/**
 * Many things as one tab stop: the current one, else the one that had the focus last, else the first; the arrow keys lead to
 * the others as they lie.
 * @param selector what the arrows lead to
 */
export const roving =
	(selector: string): Attachment<HTMLElement | SVGElement> =>
	(host) => {
		let last: Stop | null = null;
		let place = 0;
		const stops = () => [...host.querySelectorAll<Stop>(selector)];
		const settle = () => {
			const all = stops();
			const held = all.find((stop) => stop === document.activeElement);
			const current = all.find((stop) => stop.getAttribute('aria-current') === 'true');
			const chosen =
				held ?? current ?? (last && all.includes(last) ? last : all[Math.min(place, all.length - 1)]);
			for (const stop of all) {
				const index = stop === chosen ? '0' : '-1';
				if (stop.getAttribute('tabindex') !== index) stop.setAttribute('tabindex', index);
			}
		};
		const focus = (event: Event) => {
			const stop = (event.target as Element).closest<Stop>(selector);
			if (!stop) return;
			last = stop;
			place = stops().indexOf(stop);
			settle();
		};
		const press = (event: Event) => {
			const { key, altKey, ctrlKey, metaKey, shiftKey } = event as KeyboardEvent;
			if (event.defaultPrevented || altKey || ctrlKey || metaKey || shiftKey) return;
			const all = stops();
			const from = all.indexOf(document.activeElement as Stop);
			const to = from < 0 ? null : neighbour(spotsOf(all), from, key);
			if (to === null) return;
			event.preventDefault();
			all[to].focus();
		};
		const watch = new MutationObserver(settle);
		watch.observe(host, {
			childList: true,
			subtree: true,
			attributes: true,
			attributeFilter: ['aria-current']
		});
		// After what the stops do with a key themselves.
		const ends = [on(host, 'focusin', focus), on(host, 'keydown', press)];
		settle();
		return () => {
			watch.disconnect();
			for (const end of ends) end();
		};
	};
