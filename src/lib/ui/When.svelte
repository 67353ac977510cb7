<script module lang="ts">
	/** Made once: a page tells dozens of times. */
	const exact = new Intl.DateTimeFormat('en-GB', { dateStyle: 'long', timeStyle: 'medium' });
	const short = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
</script>

<script lang="ts">
	import { formatDistanceStrict } from 'date-fns';
	import { wallClock } from './clock.svelte';

	/**
	 * A time as people say it, with the exact time on hover. It is written out where nothing hovers (a finger, paper), and
	 * where the exact time is what one came for.
	 */
	let { at, written = false }: { at: string; written?: boolean } = $props();
	const JUST_NOW_MS = 10_000;
	const date = $derived(new Date(at));
	/** What has just happened may be newer than the clock's last tick. */
	const now = $derived(Math.max(wallClock.now, date.getTime()));
	const says = $derived(
		Math.abs(now - date.getTime()) < JUST_NOW_MS
			? 'just now'
			: formatDistanceStrict(date, now, { addSuffix: true })
	);
</script>

<time datetime={at} title={exact.format(date)} data-exact={short.format(date)} class={[written && 'written']}
	><span>{says}</span></time
>

<style>
	.written::after {
		content: ' (' attr(data-exact) ')';
	}
	@media (hover: none) {
		time::after {
			content: ' (' attr(data-exact) ')';
		}
	}
	/* "Three days ago" is not so any more when the paper is read. */
	@media print {
		span {
			display: none;
		}
		time::after {
			content: attr(data-exact);
		}
	}
</style>
