<script lang="ts">
	import { goto } from '$app/navigation';
	import { placesInWords } from '$lib/core/drawer';
	import AddToBank from '$lib/ui/AddToBank.svelte';
	import { count } from '$lib/ui/words';

	let { data } = $props();
	const key = ({ profileId, area }: { profileId: string; area: string }) => `${profileId} ${area}`;

	function show(model: string, parameters: number) {
		const [profileId, area] = model.split(' ');
		void goto(`?profile=${profileId}&area=${area}&parameters=${parameters}`, {
			keepFocus: true,
			noScroll: true
		});
	}
</script>

<svelte:head><title>Look-alikes · Silent Drawer</title></svelte:head>

{#if !data.chosen || !data.result}
	<h2>No sounds to compare yet</h2>
	<p class="mt-1">Back up an instrument whose profile knows its parameters.</p>
{:else}
	{@const chosen = data.chosen}
	{@const { families, sounds, all } = data.result}
	<div class="flex flex-wrap items-end gap-4">
		<div class="field">
			<label for="model">Sounds of</label>
			<select
				id="model"
				class="select"
				value={key(chosen)}
				onchange={(event) => show(event.currentTarget.value, data.parameters)}
			>
				{#each data.models as model (key(model))}<option value={key(model)}>{model.title}</option>{/each}
			</select>
		</div>
		<div class="field">
			<label for="parameters">Alike when at most</label>
			<select
				id="parameters"
				class="select"
				value={String(data.parameters)}
				onchange={(event) => show(key(chosen), Number(event.currentTarget.value))}
			>
				<option value="0">nothing but the name differs</option>
				{#each [1, 2, 3, 4, 5, 6] as n (n)}<option value={String(n)}
						>{count(n, 'parameter')} differ{n === 1 ? 's' : ''}</option
					>{/each}
			</select>
		</div>
	</div>
	<p class="mt-3" role="status">
		{all === 0
			? `Of ${sounds.toLocaleString('en')} sounds in all drawers, no two are alike.`
			: `${sounds.toLocaleString('en')} sounds in all drawers; ${count(all, 'family', 'families')} of look-alikes${all > families.length ? `, the ${families.length} largest are shown` : ''}.`}
	</p>
	{#each families as family, i (i)}
		<section class="mt-4 border-t border-line pt-2" aria-label={`Family ${i + 1}`}>
			<h2>
				{family.size} × {family.members[0].name || 'unnamed'}
				<span class="small-print"
					>{family.kind === 'same'
						? 'the same but for the name'
						: `differ in ${family.differing.join(', ')}`}</span
				>
			</h2>
			<ul class="mt-1 text-sm md:columns-2">
				{#each family.members as member (member.hash)}
					<li class="flex break-inside-avoid items-start gap-2 py-0.5">
						<span class="min-w-0 flex-1"
							><a class="link-quiet plate" href={`/sounds/${member.hash}`}>{member.name || 'unnamed'}</a>
							<span class="small-print">
								{placesInWords(member.places)}
								{member.change
									? member.change.parameters
											.slice(0, 3)
											.map(({ name, from, to }) => `· ${name} ${from} → ${to}`)
											.join(' ')
									: ''}
							</span></span
						><AddToBank
							record={member.hash}
							name={member.name ?? 'unnamed'}
							profileId={chosen.profileId}
							area={chosen.area}
							from="Look-alikes"
						/>
					</li>
				{/each}
				{#if family.size > family.members.length}<li class="small-print">
						and {family.size - family.members.length} more
					</li>{/if}
			</ul>
		</section>
	{/each}
{/if}
