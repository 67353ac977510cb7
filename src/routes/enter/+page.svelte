<script lang="ts">
	let { form } = $props();
</script>

<svelte:head><title>Silent Drawer</title></svelte:head>
<main class="grid h-screen place-items-center">
	<form method="POST" class="sheet w-80 space-y-3 p-6">
		<h1>Silent Drawer</h1>
		<div class="field">
			<label for="passphrase">Passphrase of this studio</label>
			<input
				id="passphrase"
				name="passphrase"
				type="password"
				class="input w-full"
				required
				autocomplete="current-password"
			/>
		</div>
		{#if form?.says}<p role="alert" class="text-rust">{form.says}</p>{/if}
		<button class="btn btn-primary">Open</button>
	</form>
</main>
