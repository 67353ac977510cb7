<script lang="ts">
	import { SHAPES, type Question } from '../../core/profile';
	import type { FromManual } from './from-manual.svelte';

	interface Props {
		manual: FromManual;
		/** The text as it stands: what was changed in it by hand is not written over unasked. */
		text: string;
		/** Writes the profile that the answers come to. */
		write: (text: string) => void;
		/** Whether nothing is in the text yet that anybody wrote. */
		fresh: boolean;
	}
	/** What a manual says of a model, asked in its order; each answer is written into the text at once. */
	let { manual, text, write, fresh }: Props = $props();
	const shape = $derived(SHAPES.find(({ id }) => id === manual.shape) ?? null);
	const steps = $derived([...new Set(shape?.questions.map(({ step }) => step) ?? [])]);
	const byHand = $derived(!fresh && !manual.isOwn(text));

	function take() {
		if (manual.text === null) return;
		write(manual.text);
		manual.wrote(manual.text);
	}
	function answer(id: string, value: string) {
		manual.answer(id, value);
		if (!byHand) take();
	}
	function choose(id: (typeof SHAPES)[number]['id']) {
		manual.choose(id);
		if (!byHand) take();
	}
	const isWide = ({ as }: Question) => as === 'message' || as === 'lines';
</script>

<fieldset class="rounded-none border border-line p-3">
	<legend class="px-1"><h2>From its manual</h2></legend>
	<div class="grid gap-x-4 gap-y-1 sm:grid-cols-2" role="radiogroup" aria-label="How it speaks">
		{#each SHAPES as { id, title, says } (id)}
			<label class="flex items-start gap-2 py-1"
				><input
					type="radio"
					class="radio mt-0.5 radio-sm"
					name="shape"
					checked={manual.shape === id}
					onchange={() => choose(id)}
				/><span>{title}<span class="small-print block">{says}</span></span></label
			>
		{/each}
	</div>
	{#if shape}
		{#if byHand}
			<p class="mt-3 border-l-4 border-brass pl-3" role="status">
				The text was changed by hand. Answers are not written into it by themselves any more.
				<button class="btn ml-1 btn-sm" disabled={manual.text === null} onclick={take}
					>Write it anew from the answers</button
				>
			</p>
		{/if}
		{#each steps as step (step)}
			<h3 class="plate mt-4">{step}</h3>
			<div class="mt-1 grid gap-x-4 gap-y-2 sm:grid-cols-2">
				{#each shape.questions.filter((question) => question.step === step) as question (question.id)}
					{@const { id, label, hint, as } = question}
					{@const fault = manual.written.faults[id]}
					{@const about = `${hint ? `q-${id}-hint ` : ''}q-${id}-fault`}
					<div class={['field', isWide(question) && 'sm:col-span-2']}>
						<label for={`q-${id}`}>{label}</label>
						{#if as === 'lines'}
							<textarea
								id={`q-${id}`}
								class="textarea w-full font-mono text-sm"
								rows="3"
								spellcheck="false"
								value={manual.answers[id]}
								oninput={(event) => answer(id, event.currentTarget.value)}
								aria-invalid={fault ? 'true' : undefined}
								aria-describedby={about}
							></textarea>
						{:else if typeof as === 'object'}
							<select
								id={`q-${id}`}
								class="select w-full select-sm"
								value={manual.answers[id]}
								onchange={(event) => answer(id, event.currentTarget.value)}
								aria-describedby={about}
							>
								{#each as as { value, title } (value)}<option {value}>{title}</option>{/each}
							</select>
						{:else}
							<input
								id={`q-${id}`}
								class={['input w-full input-sm', as === 'message' && 'font-mono']}
								inputmode={as === 'number' ? 'numeric' : undefined}
								spellcheck="false"
								value={manual.answers[id]}
								oninput={(event) => answer(id, event.currentTarget.value)}
								aria-invalid={fault ? 'true' : undefined}
								aria-describedby={about}
							/>
						{/if}
						{#if hint}<span class="small-print" id={`q-${id}-hint`}>{hint}</span>{/if}
						<span class="text-sm text-rust empty:hidden" id={`q-${id}-fault`}>{fault ?? ''}</span>
					</div>
				{/each}
			</div>
		{/each}
		{#if manual.text === null}<p class="mt-3 text-rust" role="status">
				An answer cannot be read: the text below is as it was before it.
			</p>{/if}
	{:else}
		<p class="small-print mt-2">
			Choose how it speaks, then answer what its manual says, in its order. Or write the text below yourself.
		</p>
	{/if}
</fieldset>
