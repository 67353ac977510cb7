<script lang="ts">
	import {
		drawOf,
		feedingToday,
		hostOf,
		isBus,
		outputLimit,
		POLARITIES,
		type Load,
		type Output,
		type Supply
	} from '$lib/core/power';
	import LabelForm from './LabelForm.svelte';
	import type { OpenPower } from './open-power.svelte';
	import OutputForm from './OutputForm.svelte';

	/** Every supply with its outputs, what hangs on each, and what hangs on nothing. */
	let { open }: { open: OpenPower } = $props();
	const power = $derived(open.power);
	const KINDS = { supply: 'supply', battery: 'battery', usb: 'USB sockets', hub: 'USB hub' } as const;

	const outputLabel = (supply: Supply, output: Output) =>
		[
			isBus(supply) ? 'USB' : `${output.volts.join('/') || '?'} V ${output.kind ?? 'AC or DC?'}`,
			output.polarity && output.polarity !== 'none' ? POLARITIES[output.polarity] : '',
			`${output.ma ?? '?'} mA`,
			output.isolated ? 'isolated' : '',
			output.group ? `shares ${supply.groups.find(({ id }) => id === output.group)?.ma ?? '?'} mA` : ''
		]
			.filter(Boolean)
			.join(', ');
	const on = (supply: string, output: string): Load[] =>
		power.cables
			.filter((cable) => cable.supply === supply && cable.output === output)
			.flatMap(({ load }) => power.loads.find(({ id }) => id === load) ?? []);
	const today = $derived(feedingToday(power));
	const carried = (load: Load) => drawOf(power, today, load).ma;
	const draw = (load: Load) => {
		const all = carried(load);
		return all === null ? '? mA' : all === load.ma ? `${all} mA` : `${all} mA with what it hosts`;
	};
	/** How full it is, 0–1; null where a label must be read. */
	const full = (supply: Supply, output: Output, loads: Load[]): number | null => {
		const sum = loads
			.map(carried)
			.reduce<number | null>((a, b) => (a === null || b === null ? null : a + b), 0);
		const limit = outputLimit(supply, output);
		return sum === null || !limit ? null : sum / limit;
	};
	const loose = $derived(
		power.loads.filter(
			({ id, on: fedBy }) => fedBy !== 'own' && !power.cables.some((cable) => cable.load === id)
		)
	);
	const places = $derived(
		power.supplies.flatMap((supply) =>
			supply.outputs.map((output) => ({
				key: JSON.stringify([supply.id, output.id]),
				at: { supply: supply.id, output: output.id },
				title: `${supply.name} ${output.name}`
			}))
		)
	);
	function hang(load: Load, key: string) {
		const to = places.find((place) => place.key === key);
		void open.hang(
			load.id,
			to?.at ?? null,
			to ? `${load.name} hangs on ${to.title}` : `${load.name} hangs on nothing`
		);
	}
</script>

{#snippet mover(load: Load, key: string)}
	<select
		class="select w-44 select-xs"
		aria-label={`${load.name} hangs on`}
		value={key}
		disabled={open.doing.busy}
		onchange={(event) => hang(load, event.currentTarget.value)}
	>
		<option value="">nothing</option>
		{#each places as place (place.key)}<option value={place.key}>{place.title}</option>{/each}
	</select>
{/snippet}

<section class="mt-6" aria-labelledby="power-supplies">
	<h2 id="power-supplies">What feeds what</h2>
	<div class="mt-2 grid gap-4 lg:grid-cols-2">
		{#each power.supplies as supply (supply.id)}
			<div class="min-w-0 rounded border border-line bg-sheet p-3">
				<h3>
					{supply.name}
					<span class="small-print font-normal"
						>{KINDS[supply.is]}{supply.is === 'battery' ? `, ${supply.mah ?? '?'} mAh` : ''}{supply.is ===
						'hub'
							? supply.powered === 'own'
								? ', with its own supply'
								: supply.powered === 'bus'
									? ', fed by the bus'
									: ', own supply?'
							: ''}</span
					>
				</h3>
				<ul class="mt-1 flex flex-col gap-1">
					{#each supply.outputs as output (output.id)}
						{@const loads = on(supply.id, output.id)}
						{@const share = full(supply, output, loads)}
						<li class="border-t border-line pt-1">
							<p class="flex flex-wrap items-center gap-x-2">
								<span class="plate">{output.name}</span>
								<span class="small-print">{outputLabel(supply, output)}</span>
								{#if loads.length > 0}
									<span
										class="ml-auto h-2 w-20 rounded-sm border border-slate"
										role="img"
										aria-label={share === null
											? 'How full it is, is not known'
											: `${Math.round(share * 100)} % of its current`}
										><span
											class={['block h-full', share === null ? '' : share > 1 ? 'bg-rust' : 'bg-slate']}
											style:width="{Math.min(100, (share ?? 0) * 100)}%"
										></span></span
									>
									<span class="w-12 text-right text-sm tabular-nums"
										>{share === null ? '?' : `${Math.round(share * 100)} %`}</span
									>
								{/if}
							</p>
							{#each loads as load (load.id)}
								<div class="ml-3 flex flex-wrap items-center gap-2">
									{load.name} · {draw(load)}
									{@render mover(load, JSON.stringify([supply.id, output.id]))}
								</div>
							{/each}
						</li>
					{/each}
				</ul>
				<OutputForm {open} {supply} />
			</div>
		{:else}<p>No supply is noted yet.</p>{/each}
	</div>
	{#if loose.length > 0}
		<h3 class="mt-4">On no output</h3>
		<ul class="mt-1 flex flex-col gap-1">
			{#each loose as load (load.id)}
				<li class="flex flex-wrap items-center gap-2">
					{load.name} · {draw(load)}
					{#if hostOf(power, load.id)}<span class="small-print">fed by {hostOf(power, load.id)?.name}</span
						>{/if}
					{@render mover(load, '')}
				</li>
			{/each}
		</ul>
	{/if}
	<h3 class="mt-4">Labels of what draws</h3>
	<ul class="mt-1 flex flex-col gap-1">
		{#each power.loads as load (load.id)}<li><LabelForm {open} {load} /></li>{:else}<li>None yet.</li>{/each}
	</ul>
</section>
