<script module lang="ts">
	/** Made once: a page tells dozens of times. */
	const exact = new Intl.DateTimeFormat('en-GB', { dateStyle: 'long', timeStyle: 'medium' });
</script>

<script lang="ts">
	import { formatDistanceStrict } from 'date-fns';
	import { wallClock } from './clock.svelte';

	/** A time as people say it, with the exact time on hover. */
	let { at }: { at: string } = $props();
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

<time datetime={at} title={exact.format(date)}>{says}</time>
