<script lang="ts">
	import Star from '@lucide/svelte/icons/star';
	import type { SoundMark } from '../core/drawer';
	import { call } from '../hardware/api';
	import { attempt } from './attempt';

	interface Props {
		record: string;
		name: string;
		mark: SoundMark;
		/** The category that the dump itself holds. */
		own?: string;
		/** With a field for the category, not the star alone. */
		whole?: boolean;
	}
	/** What somebody says of a sound: a favourite, and of what kind. */
	let { record, name, mark, own = '', whole = false }: Props = $props();
	const uid = $props.id();
	/** As it was said here, until the page knows. */
	let said = $state.raw<{ of: string; mark: SoundMark } | null>(null);
	const shown = $derived(said?.of === record ? said.mark : mark);
	const KINDS = ['Bass', 'Bell', 'Brass', 'Drums', 'Effect', 'Keys', 'Lead', 'Pad', 'Strings'];

	async function say(values: Partial<SoundMark>) {
		const before = shown;
		const next = { ...shown, ...values };
		said = { of: record, mark: next };
		const stored = await attempt(async () => {
			await call('PUT', `/sounds/${record}/mark`, next);
		});
		if (!stored) said = { of: record, mark: before };
	}
</script>

<span class="inline-flex flex-wrap items-center gap-2">
	<button
		class="btn btn-square btn-ghost btn-sm"
		aria-pressed={shown.favourite}
		aria-label={`Favourite: ${name}`}
		onclick={() => say({ favourite: !shown.favourite })}
		><Star
			size={16}
			fill={shown.favourite ? 'currentColor' : 'none'}
			class={shown.favourite ? 'text-brass' : ''}
		/></button
	>
	{#if whole}
		<label class="flex items-center gap-2"
			><span class="small-print">Category</span>
			<input
				class="input w-36 input-sm"
				list={uid}
				maxlength="30"
				placeholder={own || 'none'}
				value={shown.category}
				onchange={(event) => say({ category: event.currentTarget.value.trim() })}
			/></label
		>
		{#if own}<span class="small-print">{own} by its own dump</span>{/if}
		<datalist id={uid}>
			{#each KINDS as kind (kind)}<option value={kind}></option>{/each}
		</datalist>
	{/if}
</span>
