<script lang="ts">
	import { autocompletion, type CompletionContext } from '@codemirror/autocomplete';
	import { json } from '@codemirror/lang-json';
	import { linter, lintGutter, forceLinting } from '@codemirror/lint';
	import { EditorView, keymap } from '@codemirror/view';
	import { basicSetup } from 'codemirror';
	import { untrack } from 'svelte';
	import { completeText, type TextFault } from './document-text';

	interface Props {
		text: string;
		/** Its JSON Schema, for what could be written. */
		schema: object;
		/** What is wrong with a text. */
		faultsOf: (text: string) => TextFault[];
		label: string;
	}
	/** The text of a document, with completion and faults from its schema. */
	let { text = $bindable(), schema, faultsOf, label }: Props = $props();

	function complete(context: CompletionContext) {
		const offers = completeText(context.state.doc.toString(), context.pos, schema);
		if (offers.length === 0) return null;
		const word = context.matchBefore(/"?[\w-]*"?/);
		if (!context.explicit && !word?.text) return null;
		return {
			from: offers[0].from,
			options: offers.map(({ label, insert, detail }) => ({
				label: `"${label}"`,
				displayLabel: label,
				apply: insert,
				detail
			}))
		};
	}

	const own = EditorView.theme({
		'&': {
			height: '62vh',
			fontSize: '13px',
			backgroundColor: 'var(--color-ground)',
			color: 'var(--color-ink)'
		},
		'.cm-scroller': { fontFamily: 'IBM Plex Mono, monospace' },
		'.cm-gutters': { backgroundColor: 'var(--color-sheet)', color: 'var(--color-slate)', border: 'none' },
		'.cm-activeLine, .cm-activeLineGutter': {
			backgroundColor: 'color-mix(in srgb, var(--color-chosen) 9%, transparent)'
		},
		'.cm-cursor': { borderLeftColor: 'var(--color-ink)' },
		'&.cm-focused .cm-selectionBackground, .cm-selectionBackground': {
			backgroundColor: 'color-mix(in srgb, var(--color-chosen) 28%, transparent) !important'
		},
		'.cm-tooltip': {
			backgroundColor: 'var(--color-sheet)',
			color: 'var(--color-ink)',
			border: '1px solid var(--color-line)'
		},
		'.cm-content span': { color: 'var(--color-ink) !important' }
	});

	function edit(node: HTMLElement) {
		// In a shadow root the editor's sheets are adopted ones: the page's content-security policy allows no others.
		const root = node.shadowRoot ?? node.attachShadow({ mode: 'open' });
		const view = new EditorView({
			parent: root,
			root,
			doc: untrack(() => text),
			extensions: [
				basicSetup,
				json(),
				autocompletion({ override: [complete] }),
				lintGutter(),
				linter((of) =>
					faultsOf(of.state.doc.toString()).map(({ from, to, says }) => ({
						from,
						to: Math.max(from, Math.min(to, of.state.doc.length)),
						severity: 'error' as const,
						message: says
					}))
				),
				EditorView.lineWrapping,
				EditorView.contentAttributes.of({ 'aria-label': label, tabindex: '0' }),
				EditorView.updateListener.of((update) => {
					if (update.docChanged) text = update.state.doc.toString();
				}),
				// The page's own keys are not for somebody who writes; Tab leaves the editor, as on the rest of the page.
				keymap.of([]),
				own
			]
		});
		forceLinting(view);
		return () => view.destroy();
	}
</script>

<div class="border border-line" {@attach edit}></div>
