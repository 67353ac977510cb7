<script lang="ts">
	import { replaceSound, soundIn, type FollowedSound, type SlotSeen } from '$lib/core/scene';
	import StateMark from '../StateMark.svelte';
	import type { OpenSet } from './open-set.svelte';

	/** Sounds of the scenes that are not where they were, with what mends it in one step. */
	let { open }: { open: OpenSet } = $props();
	const astray = $derived(
		open.sounds.filter(({ sound, followed }) => sound.kept !== null && followed.is !== 'there')
	);
	const words = ({ followed, sound }: FollowedSound): string => {
		switch (followed.is) {
			case 'moved':
				return `is in ${followed.to.map(({ label }) => label).join(', ')} now; ${followed.slot.label} ${
					followed.slot.name ? `holds “${followed.slot.name}”` : 'is not known'
				}.`;
			case 'renumbered':
				return `is selected by program ${followed.select.program} now, not ${sound.program}.`;
			case 'renamed':
				return `is called “${followed.slot.name}” now.`;
			case 'edited':
				return `was worked on since: ${followed.slot.label} holds another “${followed.slot.name}”.`;
			case 'lost':
				return `is not there any more: ${followed.slot.label} holds “${followed.slot.name ?? 'another sound'}”${
					followed.whole ? '' : ', and not every slot was read'
				}.`;
			case 'unknown':
				return followed.slot
					? `is not known to be in ${followed.slot.label}: that was not read since it was written to, or never.`
					: 'cannot be looked for: nothing is known of its drawers.';
			case 'there':
				return 'is there.';
		}
	};
	const where = ({ scenes, desk }: FollowedSound) =>
		[desk ? 'the desk' : '', scenes.length > 0 ? `scene ${scenes.join(', ')}` : '']
			.filter(Boolean)
			.join(' and ');
	const take = ({ instrument, sound }: FollowedSound, slot: SlotSeen) => {
		const next = soundIn(slot);
		return (
			next &&
			open.edit(`${sound.name}: ${next.name} in ${slot.label}`, (set) =>
				replaceSound(set, instrument, sound, next)
			)
		);
	};
	const offers = ({ followed }: FollowedSound): SlotSeen[] =>
		followed.is === 'moved'
			? followed.to
			: followed.is === 'renamed' || followed.is === 'edited' || followed.is === 'renumbered'
				? [followed.slot]
				: [];
	const offerWords = ({ followed }: FollowedSound, { label }: SlotSeen) =>
		followed.is === 'moved'
			? `Take it from ${label}`
			: followed.is === 'edited'
				? `Take it as it is now`
				: 'Take that over';
</script>

{#if astray.length > 0}
	<section aria-labelledby="astray-title" class="mt-4">
		<h2 id="astray-title">Sounds that are not where they were</h2>
		<ul class="mt-1 flex flex-col gap-2">
			{#each astray as named, i (i)}
				<li class="flex items-start gap-2" data-followed={named.followed.is}>
					<span class="mt-1"><StateMark state={named.followed.is === 'lost' ? 'danger' : 'attention'} /></span
					>
					<div>
						<p>
							<span class="plate">{named.sound.name}</span>
							{`(${open.instrument(named.instrument)?.name ?? named.instrument}, ${where(named)}) ${words(named)}`}
						</p>
						<div class="mt-1 flex flex-wrap gap-2">
							{#each offers(named) as slot (slot.label)}
								<button class="btn btn-xs" onclick={() => void take(named, slot)}
									>{offerWords(named, slot)}<span class="sr-only">{`: ${named.sound.name}`}</span></button
								>
							{/each}
							{#if named.followed.is === 'edited' || named.followed.is === 'lost'}
								<a class="btn btn-ghost btn-xs" href={`/sounds/${named.sound.kept!.record}`}
									>Bring it back<span class="sr-only">{`: ${named.sound.name}`}</span></a
								>
							{/if}
						</div>
					</div>
				</li>
			{/each}
		</ul>
	</section>
{/if}
