<script lang="ts">
	import { format, formatDistanceStrict } from 'date-fns';
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

<time datetime={at} title={format(date, 'd MMMM yyyy, HH:mm:ss')}>{says}</time>
