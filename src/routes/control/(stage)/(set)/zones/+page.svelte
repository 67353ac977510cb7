<script lang="ts">
	import { pedalsOf, inPlayer, zoneSchema, type Player, type Zone } from '$lib/core/scene';
	import { uniqueId } from '$lib/core/unique-id';
	import { desk } from '$lib/hardware/desk.svelte';
	import BenchPedal from '$lib/ui/scene/BenchPedal.svelte';
	import OctaveRuler from '$lib/ui/scene/OctaveRuler.svelte';
	import DeskExtras from '$lib/ui/scene/DeskExtras.svelte';
	import { KeysPlayed } from '$lib/ui/scene/keys-played.svelte';
	import { openSet } from '$lib/ui/scene/open-set.svelte';
	import SceneList from '$lib/ui/scene/SceneList.svelte';
	import SoundField from '$lib/ui/scene/SoundField.svelte';
	import SoundsFollowed from '$lib/ui/scene/SoundsFollowed.svelte';
	import ZoneForm from '$lib/ui/scene/ZoneForm.svelte';
	import { FINDING_WORDS } from '$lib/ui/scene/zone-words';
	import ZonesHeard from '$lib/ui/scene/ZonesHeard.svelte';
	import TroubleList from '$lib/ui/TroubleList.svelte';

	const open = openSet();
	let chosen = $state<string | null>(null);
	const played = new KeysPlayed(open);
	const setup = $derived(played.setup);
	const zone = $derived(setup.zones.find(({ id }) => id === chosen) ?? null);
	const found = $derived(open.told.found);
	const nameOf = (id: string) => open.instrument(id)?.name ?? 'nothing';
	/** How late a zone's notes come, by the place that waits longest; null where one of them is not known. */
	const late = ({ id }: Zone) => {
		const all = open.told.lateMs[id] ?? [];
		const known = all.filter((ms) => ms !== null);
		return known.length > 0 && known.length === all.length ? Math.max(...known) : null;
	};
	const placesInWords = ({ to }: Zone) =>
		to.map(({ instrument, channel }) => `${nameOf(instrument)} ${channel}`).join(', ') || 'no instrument';

	const takeAll = () =>
		open.edit('Players and instruments of the wiring', (set) => [
			{ path: ['setup', 'players'], value: [...set.setup.players, ...found.players] },
			{ path: ['setup', 'instruments'], value: [...set.setup.instruments, ...found.instruments] }
		]);
	async function addZone(player: Player) {
		const instrument = setup.instruments.find(({ id }) => id !== player.own) ?? setup.instruments[0];
		let id = '';
		await open.edit(`A zone more on ${player.name}`, (set) => {
			const taken = new Set(set.setup.zones.map((each) => each.id));
			id = uniqueId('zone', taken, 'zone');
			const last = set.setup.zones.filter((each) => each.player === player.id).at(-1);
			const from = last && last.keys[1] < player.keys[1] ? last.keys[1] + 1 : player.keys[0];
			return [
				{
					path: ['setup', 'zones', set.setup.zones.length],
					value: zoneSchema.parse({
						id,
						name: `Zone ${set.setup.zones.length + 1}`,
						player: player.id,
						keys: [from, player.keys[1]],
						to: instrument
							? [{ instrument: instrument.id, channel: open.told.channels[instrument.id] ?? 1 }]
							: []
					})
				}
			];
		});
		chosen = id;
	}
</script>

<svelte:head><title>Zones · Silent Drawer</title></svelte:head>

{#if setup.players.length === 0 || setup.instruments.length === 0}
	<p class="max-w-prose">
		A zone joins keys to an instrument. {found.players.length + found.instruments.length > 0
			? `By the wiring, ${found.players.map(({ name }) => name).join(', ') || 'nobody'} can play, and ${found.instruments.map(({ name }) => name).join(', ') || 'nothing'} can sound.`
			: 'Nothing in Gear has keys or sounds yet.'}
	</p>
	<div class="mt-2 flex flex-wrap gap-2">
		{#if found.players.length + found.instruments.length > 0}
			<button class="btn btn-primary btn-sm" onclick={takeAll}>Take them all</button>
		{/if}
		<a class="btn btn-sm" href="/control/zones/gear">Choose, or write others</a>
	</div>
{:else}
	<div class="beside">
		<div class="min-w-0">
			{#each setup.players as player (player.id)}
				<section aria-label={player.name} class="mb-4">
					<div class="mb-1 flex flex-wrap items-center gap-3">
						<h2>{player.name}</h2>
						{#if player.own}
							<label class="flex items-center gap-2 text-sm"
								><input
									type="checkbox"
									class="toggle toggle-sm"
									checked={player.local}
									onchange={(event) => {
										const local = event.currentTarget.checked;
										void open.edit(`${player.name}: local ${local ? 'on' : 'off'}`, (set) =>
											inPlayer(set, player, { local })
										);
									}}
								/>
								Local: its keys play {nameOf(player.own)}</label
							>
						{/if}
						<button class="btn ml-auto btn-xs" onclick={() => void addZone(player)}
							>Add a zone<span class="sr-only">{` on ${player.name}`}</span></button
						>
					</div>
					{#if player.own && player.local}
						<div class="mb-2">
							<SoundField {open} {played} instrument={player.own} channel={player.sends ?? 1} />
						</div>
					{/if}
					<OctaveRuler
						{player}
						zones={setup.zones.filter((each) => each.player === player.id)}
						{chosen}
						choose={(id) => (chosen = chosen === id ? null : id)}
						strike={(key) => played.strike(player.id, key)}
						release={() => played.release(player.id)}
						struck={played.struck?.player === player.id ? played.struck.key : null}
					/>
					{#if played.listening && desk.world === 'bench'}<div class="mt-1 flex flex-wrap gap-2">
							{#each pedalsOf(setup, player.id) as controller (controller)}
								<BenchPedal {played} {player} {controller} />
							{/each}
						</div>{/if}
					{#if zone?.player === player.id}
						{#key zone.id}<ZoneForm {open} {played} {zone} gone={() => (chosen = null)} />{/key}
						<p class="small-print mt-1">
							{`${placesInWords(zone)}. `}{late(zone) === null
								? 'How late its notes come is not known: its way is not in the wiring.'
								: `By the wiring its notes come ${late(zone)!.toFixed(1)} ms late at least.`}
						</p>
					{/if}
				</section>
			{/each}
			{#if !zone}<p class="small-print">Choose a zone to change it.</p>{/if}
			<ZonesHeard {open} {played} />
			<section aria-labelledby="zone-findings" class="mt-4">
				<h2 id="zone-findings">What is wrong on the desk, or not known</h2>
				{#if open.findings.length === 0}<p class="mt-1">By what is noted, nothing.</p>
				{:else}
					<TroubleList
						troubles={open.findings}
						words={FINDING_WORDS}
						busy={open.doing.busy}
						mend={({ says, edits }) => open.edit(says, () => edits)}
					/>
				{/if}
			</section>
			<DeskExtras {open} />
			<SoundsFollowed {open} />
		</div>
		<div class="min-w-0"><SceneList {open} /></div>
	</div>
{/if}
