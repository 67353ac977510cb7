<script lang="ts">
	import { format, formatDistanceToNowStrict } from 'date-fns';

	/** A time as people say it, with the exact time on hover. */
	let { at }: { at: string } = $props();
	const date = $derived(new Date(at));
</script>

<time datetime={at} title={format(date, 'd MMMM yyyy, HH:mm:ss')}
	>{formatDistanceToNowStrict(date, { addSuffix: true })}</time
>
