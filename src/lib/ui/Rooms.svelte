<script lang="ts">
	import { page } from '$app/state';

	interface Props {
		/** Whose rooms they are, for assistive technology. */
		of: string;
		rooms: readonly { title: string; href: string }[];
	}
	/** The pages of one stage that work on one thing. */
	let { of, rooms }: Props = $props();
</script>

<nav aria-label={`Rooms of ${of}`} class="flex flex-wrap gap-1">
	{#each rooms as { title, href } (href)}
		<a
			{href}
			class={['btn btn-ghost btn-sm', page.url.pathname === href && 'is-chosen']}
			aria-current={page.url.pathname === href ? 'page' : undefined}>{title}</a
		>
	{/each}
</nav>
