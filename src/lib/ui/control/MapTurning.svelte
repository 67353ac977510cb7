<script lang="ts">
	import {
		COMFORT,
		figure,
		hurtsNow,
		sharedTurning,
		turnedLines,
		turnedName,
		turnTo,
		type Suits,
		type TurnedLine
	} from '$lib/core/control';
	import { count } from '../words';
	import type { OpenMap } from './open-map.svelte';

	/** How far encoders turn for what they tell, and which acceleration suits them. */
	let { open }: { open: OpenMap } = $props();
	const lines = $derived(turnedLines(open.map));
	const shared = $derived(sharedTurning(open.map));
	/** Turns and steps are worked out step by step of every range: only for who looks. */
	let unfolded = $state(false);
	const settable = $derived(lines.some(({ control }) => control.accelerations.length > 1));
	const wanted = $derived(turnTo(lines, shared ? shared.acceleration : 'best').length);
	const unit = ({ target }: TurnedLine) => (target.unit ? ` ${target.unit}` : '');
	const notch = (line: TurnedLine, way: Suits | undefined) => {
		if (!way) return '—';
		const [slow, quick] = [figure(way.fine), figure(way.coarse)];
		return `${slow === quick ? slow : `${slow}, ${quick}`}${unit(line)}`;
	};
	const nowOf = ({ ways, now }: TurnedLine) => ways.find(({ acceleration }) => acceleration === now);

	const suit = () =>
		open.edit(
			shared ? `All encoders count ${shared.acceleration}` : 'Encoders count what suits them',
			(map) => {
				const one = sharedTurning(map);
				return turnTo(turnedLines(map), one ? one.acceleration : 'best');
			}
		);
	const set = (line: TurnedLine, acceleration: number) =>
		open.edit(`${turnedName(open.map, line)} counts ${acceleration}`, (map) =>
			turnTo(
				turnedLines(map).filter(({ path }) => path.join() === line.path.join()),
				acceleration
			)
		);
</script>

{#if lines.length > 0 && settable}
	<details class="mt-6" bind:open={unfolded}>
		<summary><h2 class="inline">How far encoders turn</h2></summary>
		{#if unfolded}
			<p class="small-print mt-1 max-w-prose">
				Turns are the steps of a range, divided by the notches of a turn times what a notch counts at its
				quickest. A slow notch always counts one step. Comfort is a whole range in {COMFORT.mostTurns} turns, and
				no quick notch of more than {COMFORT.mostShare * 100} % of it.
			</p>
			{#if shared}
				<p class="mt-2 max-w-prose">
					The {open.map.surface.model} has one setting for all: <strong>{shared.acceleration}</strong> at
					their quickest hurts least{shared.suffers.length === 0
						? ', and suits them all'
						: `; ${count(shared.suffers.length, 'encoder')} ${shared.suffers.length === 1 ? 'suffers' : 'suffer'}`}.
				</p>
				{#if shared.suffers.length > 0}
					<ul class="mt-1 list-inside list-disc">
						{#each shared.suffers as { line, turns, helps } (line.path.join())}<li>
								{turnedName(open.map, line)}, for {line.target.name}: {figure(turns)} turns{helps.length > 0
									? `. What would help: ${helps.join('; ')}`
									: ''}.
							</li>{/each}
					</ul>
				{/if}
			{/if}
			{#if wanted > 0}<button class="btn mt-2 btn-sm" onclick={suit}
					>{shared ? `Have all count ${shared.acceleration}` : 'Have each count what suits it'}</button
				>{/if}
			<div class="overflow-x-auto">
				<table class="ledger-table mt-2">
					<thead
						><tr
							><th scope="col">Encoder</th><th scope="col">Tells</th><th scope="col">Turns</th><th scope="col"
								>A notch at most, slow and quick</th
							><th scope="col">Counts at its quickest</th></tr
						></thead
					>
					<tbody>
						{#each lines as line (line.path.join())}
							{@const way = nowOf(line)}
							<tr>
								<th scope="row">{turnedName(open.map, line)}</th>
								<td>{line.target.name}</td>
								<td class="figures">{way ? figure(way.turns) : '—'}</td>
								<td class="figures">{notch(line, way)}</td>
								<td>
									{#if line.control.accelerations.length > 1}<select
											class="select w-40 select-sm"
											aria-label={`${turnedName(open.map, line)} counts at its quickest`}
											value={line.now}
											onchange={(event) => set(line, Number(event.currentTarget.value))}
										>
											{#if !way}<option value={line.now}>{line.now}, not offered</option>{/if}
											{#each line.control.accelerations as acceleration (acceleration)}<option
													value={acceleration}
													>{acceleration}{!shared && acceleration === line.best
														? ' · suits it best'
														: ''}</option
												>{/each}
										</select>{:else}{line.now}{/if}
									{#if hurtsNow(line) > 0}<span class="small-print"
											>{(way?.turns ?? 0) > COMFORT.mostTurns
												? `more than ${COMFORT.mostTurns} turns`
												: 'a quick notch is coarse'}</span
										>{/if}
								</td>
							</tr>
						{/each}
					</tbody>
				</table>
			</div>
		{/if}
	</details>
{/if}
