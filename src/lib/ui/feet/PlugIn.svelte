<script lang="ts">
	import { CABLE_KINDS, footLineSchema, judge, pairingOf, type FootLine } from '$lib/core/pedal';
	import { uniqueId } from '$lib/core/unique-id';
	import type { OpenFloor } from './open-floor.svelte';

	/** One more line: which jack, which pedal, which cable, and what they would come to. */
	let { open }: { open: OpenFloor } = $props();
	let [jackKey, pedalId, cableId] = $state(['', '', '']);
	const floor = $derived(open.floor);
	const jacks = $derived(
		floor.boxes.flatMap((box) =>
			box.jacks
				.filter(
					(jack) =>
						!floor.lines.some(({ jacks }) => jacks.some((at) => at.box === box.id && at.jack === jack.id))
				)
				.map((jack) => ({
					key: JSON.stringify([box.id, jack.id]),
					at: { box: box.id, jack: jack.id },
					title: `${box.name} · ${jack.name}`
				}))
		)
	);
	const pedals = $derived(
		floor.pedals.filter(({ id }) => !floor.lines.some((line) => line.pedals.includes(id)))
	);
	const cables = $derived(floor.cables.filter(({ id }) => !floor.lines.some(({ cable }) => cable === id)));
	const pedal = $derived(pedals.find(({ id }) => id === pedalId));
	const own = $derived(pedal?.plug.startsWith('own') ?? false);
	const wanted = $derived.by((): FootLine | null => {
		const jack = jacks.find(({ key }) => key === jackKey);
		if (!jack || !pedal || (!own && !cables.some(({ id }) => id === cableId))) return null;
		return footLineSchema.parse({
			id: uniqueId(pedal.name, new Set(floor.lines.map((line) => line.id)), 'line'),
			jacks: [jack.at],
			cable: own ? null : cableId,
			pedals: [pedal.id]
		});
	});
	const would = $derived.by(() => {
		const pairing = wanted && pairingOf(floor, wanted);
		return pairing ? judge(pairing) : null;
	});

	async function plug(event: SubmitEvent) {
		event.preventDefault();
		const line = wanted;
		if (!line) return;
		const kept = await open.edit(`${pedal!.name} plugged in`, (now) => [
			{ path: ['lines', now.lines.length], value: line }
		]);
		if (kept) [jackKey, pedalId, cableId] = ['', '', ''];
	}
</script>

{#if jacks.length > 0 && pedals.length > 0}
	<form class="mt-5 flex flex-wrap items-end gap-3 print:hidden" aria-label="Plug in" onsubmit={plug}>
		<div class="field">
			<label for="plug-jack">Jack</label>
			<select id="plug-jack" class="select w-52 select-sm" bind:value={jackKey}>
				<option value="">…</option>
				{#each jacks as { key, title } (key)}<option value={key}>{title}</option>{/each}
			</select>
		</div>
		<div class="field">
			<label for="plug-pedal">Pedal</label>
			<select id="plug-pedal" class="select w-52 select-sm" bind:value={pedalId}>
				<option value="">…</option>
				{#each pedals as { id, name } (id)}<option value={id}>{name}</option>{/each}
			</select>
		</div>
		<div class="field">
			<label for="plug-cable">Cable</label>
			<select id="plug-cable" class="select w-60 select-sm" bind:value={cableId} disabled={own}>
				<option value="">{own ? 'its own' : '…'}</option>
				{#each cables as { id, name, kind } (id)}<option value={id}>{name} ({CABLE_KINDS[kind]})</option
					>{/each}
			</select>
		</div>
		<button class="btn btn-sm" disabled={!wanted || open.doing.busy}>Plug in</button>
		{#if would}<p class="basis-full" role="status">
				{would.kind === 'works' ? 'It would work.' : 'Not as it is:'}
				{would.says}
			</p>{/if}
	</form>
{/if}
