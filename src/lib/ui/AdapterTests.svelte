<script lang="ts">
	import { Doing } from './doing.svelte';
	import type { Profile } from '../core/profile';
	import { testLoopback } from '../core/transfer';
	import { carryOut } from '../hardware/carry-out';
	import { desk } from '../hardware/desk.svelte';
	import { midiDesk } from '../hardware/midi-desk.svelte';
	import { realClock } from '../hardware/real-clock';
	import ProblemNote from './ProblemNote.svelte';
	import StateMark from './StateMark.svelte';
	import When from './When.svelte';
	import { problemOf } from './words';

	interface Props {
		sockets: { port: string; name: string; direction: 'in' | 'out' }[];
		units: { id: string; name: string; profileId: string }[];
		profiles: Profile[];
	}
	/** What an adapter does to long and dense messages. */
	let { sockets, units, profiles }: Props = $props();
	let out = $state('');
	let back = $state('');
	let unit = $state('');
	let trying = $state<string | null>(null);
	let cancel = $state.raw<(() => void) | null>(null);
	const doing = new Doing();
	const willing = $derived(
		units.filter(({ profileId }) =>
			profiles.find(({ id }) => id === profileId)?.capture.some(({ start }) => start.by === 'request')
		)
	);
	const nameOf = (key: string) =>
		sockets.find(({ port }) => port === key)?.name ??
		units.find(({ id }) => `bench:${id}` === key)?.name ??
		key;

	$effect(() => {
		void midiDesk.recall().catch((error: unknown) => (doing.problem = problemOf(error)));
	});

	async function test() {
		trying = 'Beginning';
		await doing.run(async () => {
			if (desk.world === 'bench') {
				const chosen = units.find(({ id }) => id === unit)!;
				const profile = profiles.find(({ id }) => id === chosen.profileId)!;
				const verdict = await desk.testOnBench(chosen.id, {
					deviceId: profile.addressing.deviceId?.default ?? 0,
					channel: 1
				});
				await midiDesk.keepTest(`bench:${chosen.id}`, verdict);
			} else {
				const from = sockets.find(({ port, direction }) => port === out && direction === 'out')!;
				const to = sockets.find(({ port, direction }) => port === back && direction === 'in')!;
				const line = await midiDesk.open(from, to, 'a test of the adapter', 0);
				try {
					const verdict = await carryOut(
						testLoopback((says) => (trying = says)),
						line.link,
						realClock,
						(running) => (cancel = () => running.cancel())
					);
					if (verdict.ended === 'done') await midiDesk.keepTest(out, verdict);
					else doing.problem = { message: verdict.says, remedy: 'Start it again when the cable is in.' };
				} finally {
					line.close();
				}
			}
		});
		trying = null;
		cancel = null;
	}
</script>

<section aria-label="Adapter test" class="mt-8">
	<h2>What an adapter lets through</h2>
	<p class="small-print max-w-prose">
		{desk.world === 'bench'
			? 'Through a device that is willing to answer: its own messages of growing length, then questions ever closer together. Nothing is written.'
			: 'Plug a cable from the out straight into the in. Messages of growing length and density are sent and compared; no device hears them.'}
	</p>
	<div class="mt-2 flex flex-wrap items-end gap-3">
		{#if desk.world === 'bench'}
			<div class="field">
				<label for="test-unit">Device</label>
				<select id="test-unit" class="select" bind:value={unit}>
					<option value="">choose …</option>
					{#each willing as { id, name } (id)}<option value={id}>{name}</option>{/each}
				</select>
			</div>
		{:else}
			<div class="field">
				<label for="test-out">Out</label>
				<select id="test-out" class="select" bind:value={out}>
					<option value="">choose …</option>
					{#each sockets.filter(({ port, direction }) => direction === 'out' && midiDesk.knows(port, 'out')) as { port, name } (port)}<option
							value={port}>{name}</option
						>{/each}
				</select>
			</div>
			<div class="field">
				<label for="test-in">In</label>
				<select id="test-in" class="select" bind:value={back}>
					<option value="">choose …</option>
					{#each sockets.filter(({ port, direction }) => direction === 'in' && midiDesk.knows(port, 'in')) as { port, name } (port)}<option
							value={port}>{name}</option
						>{/each}
				</select>
			</div>
		{/if}
		<button
			class="btn"
			disabled={trying !== null || (desk.world === 'bench' ? unit === '' : out === '' || back === '')}
			onclick={test}>Test</button
		>
		{#if cancel}<button class="btn btn-ghost" onclick={cancel}>Cancel</button>{/if}
	</div>
	<p role="status" class="mt-1">{trying ? `${trying} …` : ''}</p>
	{#if doing.problem}<div class="mt-2"><ProblemNote problem={doing.problem} /></div>{/if}
	{#if midiDesk.tests.length > 0}
		<ul class="mt-2">
			{#each midiDesk.tests as { key, verdict, testedAt } (key)}
				<li class="border-b border-line py-1">
					<span class="flex items-center gap-1.5"
						><StateMark
							state={verdict.trouble === 'none' && verdict.gapMs === 0 ? 'verified' : 'attention'}
							size={11}
						/><strong>{nameOf(key)}</strong>
						{verdict.says}</span
					>
					<span class="small-print"
						>Tested <When at={testedAt} />. Messages over this port are paced by it.</span
					>
				</li>
			{/each}
		</ul>
	{/if}
</section>
