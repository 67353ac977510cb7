<script lang="ts">
	import type { ByteLine } from '$lib/core/drawer';

	/** Two versions side by side as bytes, where no profile reads them. */
	let {
		messages
	}: { messages: { position: number; before: number; after: number; lines: ByteLine[]; same: boolean }[] } =
		$props();
	const hex = (byte: number | null) => (byte === null ? '··' : byte.toString(16).padStart(2, '0'));
</script>

{#each messages as message (message.position)}
	<section class="mt-5" aria-label={`Message ${message.position + 1}`}>
		<h2>
			Message {message.position + 1}
			<span class="small-print"
				>{message.before.toLocaleString('en')} bytes before, {message.after.toLocaleString('en')} after</span
			>
		</h2>
		{#if message.same}
			<p>The same, byte for byte.</p>
		{:else}
			<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
			<div
				class="overflow-x-auto"
				tabindex="0"
				role="region"
				aria-label={`Bytes of message ${message.position + 1}`}
			>
				<table class="font-mono text-xs leading-6">
					<thead
						><tr class="text-left"><th class="pr-3">Byte</th><th class="pr-6">Before</th><th>After</th></tr
						></thead
					>
					<tbody>
						{#each message.lines as line (line.offset)}
							<tr>
								<td class="pr-3 text-slate">{line.offset}</td>
								{#each [line.before, line.after] as side, s (s)}
									<td class="pr-6 whitespace-pre"
										>{#each side as byte, i (i)}<span
												class={[
													i % 4 === 0 && i > 0 && 'ml-2',
													'mr-1',
													line.differs[i] && 'font-semibold text-rust underline'
												]}>{hex(byte)}</span
											>{/each}</td
									>
								{/each}
							</tr>
						{/each}
					</tbody>
				</table>
			</div>
		{/if}
	</section>
{/each}
