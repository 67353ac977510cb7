<script lang="ts">
	import type { CheckedLink, CheckedLinks } from '../../core/contact';
	import StateMark from '../StateMark.svelte';
	import { count } from '../words';

	interface Props {
		links: CheckedLinks;
		wish: 'keep' | 'bring' | null;
		/** What is moved is named here; what that is named by is pointed there, on wish. */
		choose: (wish: 'keep' | 'bring' | null) => void;
	}
	/** What names the slots that a restore writes: what would play something else, and what keeps it. */
	let { links, wish, choose }: Props = $props();

	/** How many slots these references are of: “3 performances”. */
	const namers = (of: readonly CheckedLink[]) => {
		const words = [...new Set(of.map(({ word }) => word))];
		return words
			.map((word) => count(new Set(of.filter((one) => one.word === word).map(({ slot }) => slot)).size, word))
			.join(' and ');
	};
	const one = $derived(new Set(links.pointed.map(({ word, slot }) => word + slot)).size === 1);
	const sounds = (of: CheckedLinks['brought']) => count(of.length, of[0].word);
	const canBring = $derived(links.brought.length > 0);
	const WHY = {
		nowhere: 'its sound will be in no slot that was read',
		'out of reach': 'it cannot name the place where its sound will be',
		'not known': 'what it should play there is not known'
	};
</script>

<fieldset class="mt-2">
	<legend class="small-print">What plays what</legend>
	{#if links.pointed.length > 0}
		<label class="flex items-start gap-2 py-0.5">
			<input
				type="checkbox"
				class="checkbox mt-0.5 checkbox-sm"
				checked={wish !== null}
				onchange={(event) => choose(event.currentTarget.checked ? 'keep' : null)}
			/>
			<span
				>Keep what {namers(links.pointed)}
				{one ? 'plays' : 'play'}: pointed to the new places, in this same restore.
				{#if wish === null}<strong class="text-rust"
						>Otherwise {one ? 'it plays' : 'they play'} something else.</strong
					>{/if}</span
			>
		</label>
	{/if}
	{#if canBring}
		<label class="flex items-start gap-2 py-0.5">
			<input
				type="checkbox"
				class="checkbox mt-0.5 checkbox-sm"
				checked={wish === 'bring'}
				onchange={(event) =>
					choose(event.currentTarget.checked ? 'bring' : links.pointed.length > 0 ? 'keep' : null)}
			/>
			<span
				>Bring {sounds(links.brought)} along that {links.brought.length === 1 ? 'is' : 'are'} played and that no
				slot holds that was read: into {links.brought.map(({ to }) => to).join(', ')}, whose sound was read in
				a lower slot as well.</span
			>
		</label>
	{/if}
	{#each Object.entries(WHY) as [why, says] (why)}
		{@const lost = links.lost.filter((link) => link.why === why)}
		{#if lost.length > 0}
			<p class="flex items-baseline gap-1.5 text-rust">
				<StateMark state="attention" size={11} />
				<span>{namers(lost)} will play something else in {count(lost.length, 'place')}: {says}.</span>
			</p>
		{/if}
	{/each}
	{#each links.unseen as { word, slots, of } (word)}
		<p class="flex items-baseline gap-1.5">
			<StateMark state="attention" size={11} />
			<span
				>What {slots === of ? 'its' : `${slots} of its`}
				{word}s play is not known: they stay as they are. Back them up first, and they can be kept right.</span
			>
		</p>
	{/each}
	{#if links.pointed.length + links.lost.length > 0}
		<details class="mt-1">
			<summary class="cursor-pointer">Which, one by one</summary>
			<ul class="mt-1 columns-2 gap-x-5 text-sm xl:columns-3" aria-label="What names what is moved">
				{#each [...links.pointed, ...links.lost] as link (link.slot + link.name)}
					<li class="truncate">
						<span class="font-mono text-xs text-slate">{link.slot}</span>
						{link.name}: {link.names} →
						<strong>{link.then ?? 'something else'}</strong>
					</li>
				{/each}
			</ul>
		</details>
	{/if}
</fieldset>
