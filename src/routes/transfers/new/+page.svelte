<script lang="ts">
	import { onMount } from 'svelte';
	import { goto } from '$app/navigation';
	import { putInTray } from '$lib/ui/tray/put';

	let { data } = $props();
	onMount(async () => {
		await putInTray(data.ask);
		await goto(`/gear/${data.deviceId}/drawer`, { replaceState: true, keepFocus: true });
	});
</script>

<svelte:head><title>Into the tray · Silent Drawer</title></svelte:head>

<h1>Into the tray</h1>
