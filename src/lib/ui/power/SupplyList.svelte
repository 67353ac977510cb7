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
		type PowerCable,
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
	const LEADS: Record<PowerCable['through'], string> = {
		plain: 'plain cable',
		reversing: 'reversing cable',
		doubling: 'doubling cable'
	};
	const endsOf = (load: Load) => power.cables.filter((cable) => cable.load === load.id);
	const on = (supply: string, output: string) =>
		power.cables
			.filter((cable) => cable.supply === supply && cable.output === output)
			.flatMap((cable) => {
				const load = power.loads.find(({ id }) => id === cable.load);
				return load ? [{ load, cable, second: endsOf(load)[0] !== cable }] : [];
			});
	const today = $derived(feedingToday(power));
	const carried = (load: Load) => drawOf(power, today, load).ma;
	const draw = (load: Load) => {
		const all = carried(load);
		return all === null ? '? mA' : all === load.ma ? `${all} mA` : `${all} mA with what it hosts`;
	};
	/** How full it is, 0–1; null where a label must be read. */
	const full = (supply: Supply, output: Output, plugs: ReturnType<typeof on>): number | null => {
		// How two outputs share what a doubling cable draws, nobody has said.
		if (plugs.some(({ cable }) => cable.through === 'doubling')) return null;
		const sum = plugs
			.map(({ load }) => carried(load))
			.reduce<number | null>((a, b) => (a === null || b === null ? null : a + b), 0);
		const limit = outputLimit(supply, output);
		return sum === null || !limit ? null : sum / limit;
	};
	const loose = $derived(
		power.loads.filter(
			({ id, on: fedBy }) => fedBy !== 'own' && !power.cables.some((cable) => cable.load === id)
		)
	);
	const keyOf = ({ supply, output }: { supply: string; output: string }) => JSON.stringify([supply, output]);
	const places = $derived(
		power.supplies.flatMap((supply) =>
			supply.outputs.map((output) => ({
				key: keyOf({ supply: supply.id, output: output.id }),
				at: { supply: supply.id, output: output.id },
				title: `${supply.name} ${output.name}`
			}))
		)
	);
	const placeOf = (key: string) => places.find((place) => place.key === key);
	function hang(load: Load, key: string) {
		const to = placeOf(key);
		void open.hang(
			load.id,
			to?.at ?? null,
			to ? `${load.name} hangs on ${to.title}` : `${load.name} hangs on nothing`
		);
	}
	function join(load: Load, key: string) {
		const to = placeOf(key);
		void open.join(
			load.id,
			to?.at ?? null,
			to ? `${load.name}: second plug at ${to.title}` : `${load.name}: second plug at nothing`
		);
	}
</script>

{#snippet mover(load: Load, key: string)}
	<select
		class="select w-34 select-xs"
		aria-label={`${load.name} hangs on`}
		value={key}
		disabled={open.doing.busy}
		onchange={(event) => hang(load, event.currentTarget.value)}
	>
		<option value="">nothing</option>
		{#each places as place (place.key)}<option value={place.key}>{place.title}</option>{/each}
	</select>
{/snippet}

{#snippet lead(load: Load, cable: PowerCable)}
	<select
		class="select w-30 select-xs"
		aria-label={`Cable of ${load.name}`}
		value={cable.through}
		disabled={open.doing.busy}
		onchange={(event) => {
			const through = event.currentTarget.value as PowerCable['through'];
			void open.lead(load.id, through, `${load.name}: ${LEADS[through]}`);
		}}
	>
		{#each Object.entries(LEADS) as [key, words] (key)}<option value={key}>{words}</option>{/each}
	</select>
	{#if cable.through === 'doubling'}
		{@const other = endsOf(load)[1]}
		<label class="flex items-center gap-1 text-sm"
			>and
			<select
				class="select w-44 select-xs"
				aria-label={`Second plug of ${load.name}`}
				value={other ? keyOf(other) : ''}
				disabled={open.doing.busy}
				onchange={(event) => join(load, event.currentTarget.value)}
			>
				<option value="">nothing yet</option>
				{#each places.filter(({ key }) => key !== keyOf(cable)) as place (place.key)}<option value={place.key}
						>{place.title}</option
					>{/each}
			</select></label
		>
	{/if}
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
						{@const plugs = on(supply.id, output.id)}
						{@const share = full(supply, output, plugs)}
						<li class="border-t border-line pt-1">
							<p class="flex flex-wrap items-center gap-x-2">
								<span class="plate">{output.name}</span>
								<span class="small-print">{outputLabel(supply, output)}</span>
								{#if plugs.length > 0}
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
							{#each plugs as { load, cable, second }, i (i)}
								<div class="ml-3 flex flex-wrap items-center gap-x-2 gap-y-1 text-sm">
									{load.name} · {second ? `the second plug of its ${LEADS[cable.through]}` : draw(load)}
									{#if !second}
										{@render mover(load, keyOf(cable))}
										{#if !isBus(supply)}{@render lead(load, cable)}{/if}
									{/if}
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
