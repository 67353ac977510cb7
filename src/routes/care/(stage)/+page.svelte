<script lang="ts">
	import CheckPanel from '$lib/ui/CheckPanel.svelte';
	import ReminderTable from '$lib/ui/ReminderTable.svelte';
	import RetentionPanel from '$lib/ui/RetentionPanel.svelte';
	import RiskWeights from '$lib/ui/RiskWeights.svelte';
	import StudioFiles from '$lib/ui/StudioFiles.svelte';

	let { data } = $props();
</script>

<svelte:head><title>Care · Silent Drawer</title></svelte:head>

<div class="grid grid-cols-1 gap-x-10 gap-y-8 xl:grid-cols-2">
	<CheckPanel />
	<StudioFiles guarded={data.guarded} />
	<ReminderTable devices={data.devices} />
	<RiskWeights risk={data.risk} />
	<div class="xl:col-span-2"><RetentionPanel rules={data.retention} /></div>
</div>
