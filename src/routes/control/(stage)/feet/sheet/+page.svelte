<script lang="ts">
	import { CABLE_KINDS, deputyChoices, jackOf, modeOf, modeWords } from '$lib/core/pedal';
	import { openFloor } from '$lib/ui/feet/open-floor.svelte';
	import { todayOnPaper } from '$lib/ui/words';

	const open = openFloor();
	const floor = $derived(open.floor);
	const rows = $derived(
		floor.lines.map((line) => {
			const jacks = line.jacks.flatMap((at) => jackOf(floor, at) ?? []);
			const told = open.lines.find(({ id }) => id === line.id);
			const cable = floor.cables.find(({ id }) => id === line.cable);
			const pedals = line.pedals.flatMap((id) => floor.pedals.find((pedal) => pedal.id === id) ?? []);
			const calibration = floor.calibrations.find((each) => each.line === line.id);
			return {
				id: line.id,
				jacks: jacks.map(({ box, jack }) => `${box.name} · ${jack.name}`).join(' + '),
				set: jacks
					.map(({ jack }) => {
						const mode = modeOf(jack);
						const words = [modeWords(mode.takes, mode.wiper)];
						if (mode.rest === 'set') words.push(`${jack.set.rest} when up`);
						if (mode.reverses && jack.set.reversed) words.push('turned round');
						return words.join(', ');
					})
					.join('; '),
				cable: cable ? `${cable.name} (${CABLE_KINDS[cable.kind]})` : 'its own',
				pedals: pedals
					.map(({ name, flips, flipped }) =>
						flips ? `${name} (small switch ${flipped ? 'moved' : 'as it came'})` : name
					)
					.join(' + '),
				verdict: told?.verdict?.kind ?? 'gone',
				besides: calibration
					? `calibrated, ${calibration.deadHeel} to ${calibration.deadToe}, controller ${calibration.controller}, channel ${calibration.channel}`
					: ''
			};
		})
	);
</script>

<svelte:head><title>Floor sheet · Silent Drawer</title></svelte:head>

<div class="mb-3 flex flex-wrap items-center gap-3 print:hidden">
	<button class="btn btn-primary btn-sm" onclick={() => window.print()}>Print</button>
	<a class="btn btn-sm" href="/api/v1/floor/document" download>Floor file</a>
</div>
<h2>The floor</h2>
<p class="small-print">
	As noted {todayOnPaper()}; the verdicts are the circuit’s. Pull a plug only with the box off where its maker
	says so; supplies and mains as their labels say.
</p>
<div class="overflow-x-auto">
	<table class="ledger-table mt-2">
		<thead
			><tr
				><th scope="col">Jack</th><th scope="col">Set to</th><th scope="col">Cable</th><th scope="col"
					>Pedal</th
				><th scope="col">By the circuit</th></tr
			></thead
		>
		<tbody>
			{#each rows as row (row.id)}
				<tr>
					<th scope="row">{row.jacks}</th><td>{row.set}</td><td>{row.cable}</td><td>{row.pedals}</td>
					<td>{row.verdict}{row.besides ? `; ${row.besides}` : ''}</td>
				</tr>
			{/each}
		</tbody>
	</table>
</div>
{#each floor.boxes.filter(({ pages }) => pages.length > 0) as box (box.id)}
	<h3 class="mt-5">{box.name}: buttons</h3>
	<div class="overflow-x-auto">
		<table class="ledger-table mt-1">
			<thead
				><tr
					><th scope="col">Page</th><th scope="col">Button</th><th scope="col">Short</th><th scope="col"
						>Long</th
					><th scope="col">Deputy</th></tr
				></thead
			>
			<tbody>
				{#each deputyChoices(box) as { page, pageName, button, buttonName, short, long } (`${page} ${button}`)}
					<tr>
						<th scope="row">{pageName}</th><td>{buttonName}</td><td>{short}</td><td>{long}</td>
						<td
							>{box.deputies
								.filter((each) => each.page === page && each.button === button)
								.map(({ spare }) => box.spares.find(({ id }) => id === spare)?.name)
								.join(', ')}</td
						>
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
{/each}
