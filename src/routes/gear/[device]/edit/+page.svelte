<script lang="ts">
	import DeviceForm from '$lib/ui/DeviceForm.svelte';

	let { data } = $props();
</script>

<svelte:head><title>Edit {data.device.name} · Silent Drawer</title></svelte:head>
{#key data.device.id}
	<DeviceForm form={data.form} submit="Save" profiles={data.profiles} />
{/key}
