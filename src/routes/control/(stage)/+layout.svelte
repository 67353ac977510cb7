<script lang="ts">
	let { children } = $props();
</script>

<header class="mb-4"><h1>Control</h1></header>
{@render children()}
