<script lang="ts">
	import type { Profile } from '../../core/profile';
	import { call } from '../../hardware/api';
	import { WORLD_WORDS, type DrawerTrial, type ProfileTrial, type World } from '../../core/drawer';
	import { Doing } from '../doing.svelte';
	import ProblemNote from '../ProblemNote.svelte';
	import StateMark from '../StateMark.svelte';
	import { count } from '../words';
	import { withReport } from './with-report';

	interface Props {
		text: string;
		/** The text as it was read; null where it has faults. */
		value: Profile | null;
		/** Goes up when another text took the place of the one that was tried. */
		opened: number;
		/** Takes the text with the report in it. */
		onreport: (text: string) => void;
	}
	/** What the profile makes of the newest dumps that are kept, and what saving it would change for which drawers. */
	let { text, value, opened, onreport }: Props = $props();
	const doing = new Doing();
	let trial = $state.raw<ProfileTrial | null>(null);
	/** The text that was tried. */
	let tried = $state('');
	const isOld = $derived(trial !== null && tried !== text);

	const tryIt = () =>
		doing.run(async () => {
			const now = text;
			trial = await call<ProfileTrial>('POST', '/profiles/try', JSON.parse(now));
			tried = now;
		});
	// What comes out of a file is tried at once: that is what one wants to know before it is saved.
	let seen = 0;
	$effect(() => {
		if (opened === seen) return;
		seen = opened;
		if (value) void tryIt();
	});

	const was = (now: number, before: number | null) =>
		before === null ? ' (raw now)' : before === now ? '' : ` (${before} now)`;
	const worldOf = (world: World) => (world === 'hardware' ? '' : WORLD_WORDS[world]);
	const worse = ({ read, readNow, slots, slotsNow, rebuilt }: DrawerTrial) =>
		rebuilt < read || (readNow !== null && (read < readNow || slots < slotsNow));
	const changes = ({ renamed, otherwise, readNow, read, slots, slotsNow }: DrawerTrial): string => {
		const said = [
			...(readNow === null ? ['read for the first time'] : []),
			...(readNow !== null && read < readNow ? [`${count(readNow - read, 'message')} no longer read`] : []),
			...(readNow !== null && slots < slotsNow ? [`${count(slotsNow - slots, 'slot')} no longer found`] : []),
			...(readNow !== null && slots > slotsNow ? [`${count(slots - slotsNow, 'slot')} more`] : []),
			...(renamed > 0 ? [`${count(renamed, 'slot')} with another name`] : []),
			...(otherwise > 0 ? [`${count(otherwise, 'slot')} with other bytes`] : [])
		];
		return said.length > 0 ? said.join(', ') : 'same slots, names and bytes';
	};
</script>

<section class="mt-4" aria-label="What saving it would change">
	<div class="flex flex-wrap items-center gap-2">
		<h2 class="flex-1">On what is kept</h2>
		<button class="btn btn-sm" disabled={value === null || doing.busy} onclick={tryIt}
			>Try it on the newest dumps</button
		>
	</div>
	{#if doing.problem}<ProblemNote problem={doing.problem} />{/if}
	{#if trial}
		<p class="small-print mt-1" role="status">
			{isOld ? 'This is of the text as it was before. ' : ''}{trial.revision === null
				? 'The studio has no profile of that id: saving makes it.'
				: `Saving makes revision ${trial.revision + 1}.`}
			{trial.drawers.length === 0 ? 'No dump is kept that it could be tried on.' : ''}
		</p>
		{#if trial.drawers.length > 0}
			<div class="mt-1 overflow-x-auto">
				<table class="ledger-table">
					<thead
						><tr
							><th class="text-ink">Drawer</th><th class="number text-ink">Messages read</th><th
								class="number text-ink">Slots</th
							><th class="text-ink">Built again</th><th class="text-ink">Changes</th></tr
						></thead
					>
					<tbody>
						{#each trial.drawers as drawer (drawer.device.id + drawer.world)}
							<tr>
								<td
									><span class="plate">{drawer.device.name}</span>
									<span class="small-print"
										>{[
											worldOf(drawer.world),
											count(drawer.dumps, 'dump'),
											drawer.damaged > 0 && `${drawer.damaged} damaged, left out`
										]
											.filter(Boolean)
											.join(' · ')}</span
									></td
								>
								<td class="number">{drawer.read} of {drawer.messages}{was(drawer.read, drawer.readNow)}</td>
								<td class="number"
									>{drawer.slots}{was(drawer.slots, drawer.readNow === null ? null : drawer.slotsNow)}</td
								>
								<td
									>{drawer.rebuilt === drawer.read
										? 'to the same bytes'
										: `${drawer.read - drawer.rebuilt} not`}</td
								>
								<td
									><span class="flex items-center gap-1.5"
										><StateMark state={worse(drawer) ? 'attention' : 'quiet'} size={11} />{changes(
											drawer
										)}</span
									></td
								>
							</tr>
						{/each}
					</tbody>
				</table>
			</div>
		{/if}
		{#if trial.report && !isOld}
			<p class="mt-2">
				<button class="btn btn-sm" onclick={() => onreport(withReport(text, trial!.report!))}
					>Put this report into the profile</button
				>
				<span class="small-print">Whoever gets its file sees what it was tried on.</span>
			</p>
		{/if}
	{/if}
	{#if value && (value.about || value.tried)}
		<p class="small-print mt-2">
			{[value.about?.title, value.about?.author && `by ${value.about.author}`].filter(Boolean).join(', ')}
			{#if value.tried}{@const last = value.tried.at(-1)!}
				Its file says that it was tried on {last.at} on {count(last.dumps, 'dump')}{last.bench
					? ' of simulated instruments'
					: ''}{last.firmware.length > 0 ? `, firmware ${last.firmware.join(', ')}` : ''}: {last.read} of {count(
					last.messages,
					'message'
				)} read, {last.rebuilt} built again to the same bytes.{/if}
		</p>
	{/if}
</section>
