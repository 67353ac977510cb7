<script lang="ts">
	import type { Player } from '$lib/core/scene';
	import type { KeysPlayed } from './keys-played.svelte';

	/** A pedal of a simulated keyboard: down until it is pressed again. */
	let { played, player, controller }: { played: KeysPlayed; player: Player; controller: number } = $props();
	let down = $state(false);
	const press = () => {
		down = !down;
		played.pedal(player.id, controller, down);
	};
</script>

<button class={['btn btn-xs', down && 'is-chosen']} aria-pressed={down} onclick={press}
	>{controller === 64 ? 'Hold pedal' : `Pedal ${controller}`}<span class="sr-only"
		>{` of ${player.name}`}</span
	></button
>
