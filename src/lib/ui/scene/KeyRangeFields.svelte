<script lang="ts">
	import { keyName, keyNamed } from '$lib/core/scene';
	import KeptField from '../KeptField.svelte';

	interface Props {
		/** From the lower to the upper one. */
		keys: readonly [number, number];
		titles?: readonly [string, string];
		/** The other end follows where one would pass it. */
		save: (moved: (keys: readonly [number, number]) => [number, number]) => unknown;
	}
	/** Two keys by their names. */
	let { keys, titles = ['From key', 'To key'], save }: Props = $props();
	let fault = $state('');

	function saveEnd(end: 0 | 1, text: string) {
		const key = keyNamed(text);
		fault = key === null ? `“${text}” is no key: say C4, F♯3, or a number from 0 to 127.` : '';
		if (key === null) return;
		return save(([low, high]) => (end === 0 ? [key, Math.max(key, high)] : [Math.min(low, key), key]));
	}
</script>

{#each [0, 1] as const as end (end)}
	<KeptField
		label={titles[end]}
		class="input w-20 input-sm"
		value={keyName(keys[end])}
		save={(text) => saveEnd(end, text)}
	/>
{/each}
{#if fault}<p role="alert" class="w-full text-rust">{fault}</p>{/if}
