<script lang="ts">
	import { POLARITIES, type Load, type Polarity } from '$lib/core/power';

	interface Props {
		/** Ends the ids of its fields. */
		of: string;
		kind: Load['kind'];
		polarity: Load['polarity'];
		setKind: (kind: Load['kind']) => unknown;
		setPolarity: (polarity: Load['polarity']) => unknown;
	}
	/** DC or AC, and which pole is where: null is “read the label”. */
	let { of, kind, polarity, setKind, setPolarity }: Props = $props();
</script>

<div class="field">
	<label for={`kind-${of}`}>AC or DC</label>
	<select
		id={`kind-${of}`}
		class="select w-24 select-sm"
		value={kind ?? ''}
		onchange={(event) => setKind((event.currentTarget.value || null) as Load['kind'])}
	>
		<option value="">?</option><option>DC</option><option>AC</option>
	</select>
</div>
<div class="field">
	<label for={`polarity-${of}`}>Polarity</label>
	<select
		id={`polarity-${of}`}
		class="select w-40 select-sm"
		value={polarity ?? ''}
		onchange={(event) => setPolarity((event.currentTarget.value || null) as Polarity | null)}
	>
		<option value="">?</option>
		{#each Object.entries(POLARITIES) as [key, words] (key)}<option value={key}>{words}</option>{/each}
	</select>
</div>
