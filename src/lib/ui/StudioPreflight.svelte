<script lang="ts">
	import type { BackupPlan } from '../core/transfer';

	interface Props {
		plan: BackupPlan;
		/** Checks that are ticked, by device and check. */
		ticked: Record<string, boolean>;
	}
	/** What must be done at the devices before a backup of the studio, in walking order. */
	let { plan, ticked = $bindable() }: Props = $props();
	const places = $derived([...new Set(plan.preflight.map(({ place }) => place))]);
	const all = $derived(
		plan.preflight.flatMap(({ id, checks }) => checks.map((check) => `${id} ${check.id}`))
	);

	const tickAll = () => (ticked = Object.fromEntries(all.map((key) => [key, true])));
</script>

<section aria-label="Before it starts">
	<div class="flex items-baseline gap-3">
		<h2 class="flex-1">Before it starts, once around the room</h2>
		{#if all.length > 1}<button class="btn btn-xs" onclick={tickAll}>All of it is as it must be</button>{/if}
	</div>
	{#if plan.preflight.length === 0}
		<p class="mt-1">No device needs a hand first.</p>
	{/if}
	{#each places as place, stop (place)}
		<h3 class="mt-4">{stop + 1}. {place || 'No place'}</h3>
		<ul class="mt-1">
			{#each plan.preflight.filter((job) => job.place === place) as job (job.id)}
				<li class="border-b border-line py-2">
					<p class="plate">{job.name}</p>
					<ul>
						{#each job.checks as check (check.id)}
							<li>
								<label class="flex items-center gap-2"
									><input
										type="checkbox"
										class="checkbox checkbox-sm"
										checked={ticked[`${job.id} ${check.id}`] ?? false}
										onchange={(event) =>
											(ticked = { ...ticked, [`${job.id} ${check.id}`]: event.currentTarget.checked })}
									/>
									{check.says}<span class="sr-only"> ({job.name})</span></label
								>
							</li>
						{/each}
					</ul>
				</li>
			{/each}
		</ul>
	{/each}
</section>
