<script lang="ts">
	import type { Term } from './glossary.ts';
	import { PLACES } from './places.ts';

	interface Props {
		open: boolean;
		/** Words of the page that have a meaning of their own here. */
		words: readonly Term[];
	}
	let { open = $bindable(), words }: Props = $props();
	let dialog: HTMLDialogElement | undefined = $state();
	$effect(() => {
		if (open && !dialog?.open) dialog?.showModal();
		if (!open && dialog?.open) dialog.close();
	});
	const KEYS = [
		['g h', 'the line'],
		['/', 'scan or find'],
		['n', 'next up'],
		['w', 'show the working of the page’s figure'],
		['← →', 'on the strip: one station upstream or downstream'],
		...PLACES.map(({ key, name }) => [`g ${key}`, name.toLowerCase()]),
		['?', 'this list'],
		['click', 'on a word that is dotted below: what it means']
	];
</script>

<dialog bind:this={dialog} class="modal" onclose={() => (open = false)} aria-label="Keys and words">
	<div class="modal-box max-h-[88vh] max-w-3xl border border-line bg-sheet shadow-none">
		<h2 class="text-xl font-semibold">Keys</h2>
		<dl class="facts mt-3">
			{#each KEYS as [key, what] (key)}<div>
					<dt class="w-20"><kbd class="kbd kbd-sm">{key}</kbd></dt>
					<dd>{what}</dd>
				</div>{/each}
		</dl>
		{#if words.length}
			<h2 class="mt-4 text-xl font-semibold">Words of this page</h2>
			<dl class="mt-2 text-[15px]" data-testid="words">
				{#each words as word (word.names[0])}<div class="border-b border-hair py-1">
						<dt class="inline font-semibold">{word.names.join(', ')}:</dt>
						<dd class="inline">{word.meaning}</dd>
					</div>{/each}
			</dl>
		{/if}
		<form method="dialog" class="mt-5 text-right"><button class="btn border-ink bg-transparent">Close</button></form>
	</div>
	<form method="dialog" class="modal-backdrop"><button aria-label="Close">close</button></form>
</dialog>
