<script lang="ts">
	import { controlName, toldKey, type ControlMap, type SetPlan, type Unit } from '$lib/core/control';
	import KeptField from '../KeptField.svelte';
	import type { OpenMap } from './open-map.svelte';

	/** What is wanted of each target's place: on every page, with others, where it is. */
	let { open, set }: { open: OpenMap; set: SetPlan } = $props();
	const { word } = $derived(open.map.surface.pages);
	const songs = $derived(
		new Map(
			set.units.map(({ name }) => [
				name,
				set.task.songs.filter(({ touches }) => touches.includes(name)).length
			])
		)
	);
	type Wish = ControlMap['wishes'][number];

	const wish = (unit: Unit, says: string, more: Partial<Wish>) =>
		open.edit(`${unit.name}: ${says}`, ({ wishes }) => {
			const [{ list, target, channel }] = unit.links;
			const told = { list, target, channel };
			const was = wishes.find((each) => toldKey(each) === toldKey(told));
			const rest = wishes.filter((each) => each !== was);
			const { everywhere, together, stays } = unit;
			return [
				{ path: ['wishes'], value: [...rest, { ...told, everywhere, together, stays, ...was, ...more }] }
			];
		});
</script>

{#if set.units.length > 0}
	<div class="mt-4 overflow-x-auto">
		<table class="ledger-table">
			<caption class="sr-only">What is wanted of each target’s place</caption>
			<thead
				><tr
					><th scope="col">Target</th><th scope="col">Now on</th><th scope="col" class="text-right">Songs</th
					><th scope="col">On every {word}</th><th scope="col">Together with</th><th scope="col">Stays</th
					></tr
				></thead
			>
			<tbody>
				{#each set.units as unit (unit.name)}
					<tr>
						<th scope="row">{unit.name}</th>
						<td
							>{unit.today
								.map(
									({ page, control }) =>
										`${page === null ? `every ${word}` : `${word} ${page}`}, ${controlName(open.map.surface, control)}`
								)
								.join('; ') || 'nowhere yet'}</td
						>
						<td class="text-right tabular-nums">{songs.get(unit.name)}</td>
						<td
							><input
								type="checkbox"
								class="checkbox checkbox-sm"
								aria-label={`${unit.name} on every ${word}`}
								checked={unit.everywhere}
								disabled={unit.today.some(({ page }) => page === null)}
								onchange={(event) =>
									void wish(unit, `on every ${word}`, { everywhere: event.currentTarget.checked })}
							/></td
						>
						<td
							><KeptField
								class="input w-28 input-xs"
								maxlength={40}
								placeholder="a word"
								aria-label={`${unit.name} on one ${word} with`}
								value={unit.together}
								disabled={unit.everywhere}
								save={(text) => wish(unit, 'together with others', { together: text.trim() })}
							/></td
						>
						<td
							><input
								type="checkbox"
								class="checkbox checkbox-sm"
								aria-label={`${unit.name} stays where it is`}
								checked={unit.stays}
								disabled={unit.today.length === 0}
								onchange={(event) =>
									void wish(unit, 'stays where it is', { stays: event.currentTarget.checked })}
							/></td
						>
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
{/if}
