<script lang="ts">
	import { page } from '$app/state';
</script>

<svelte:head><title>Not here · Silent Drawer</title></svelte:head>
<h1>{page.error?.message}</h1>
<p class="mt-2">{page.error?.remedy ?? ''}</p>
<p class="mt-4"><a href="/" class="btn btn-primary">Go to Today</a></p>
