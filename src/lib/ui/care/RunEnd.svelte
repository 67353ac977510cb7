<script lang="ts">
	import type { RunOnPage } from './open-run.svelte';

	/** Giving a run up: it stays on record, with why. */
	let { open }: { open: RunOnPage } = $props();
	let reason = $state('');
</script>

<details>
	<summary class="cursor-pointer">Give this run up</summary>
	<form
		class="mt-2 grid gap-2"
		onsubmit={(event) => {
			event.preventDefault();
			void open.act({ do: 'abandon', reason });
		}}
	>
		<div class="field">
			<label for="abandon-reason">Why</label>
			<input id="abandon-reason" class="input input-sm" maxlength="600" bind:value={reason} />
		</div>
		<button class="btn justify-self-start btn-sm" disabled={open.doing.busy}>Give it up</button>
	</form>
</details>
