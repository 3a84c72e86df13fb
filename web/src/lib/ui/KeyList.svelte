<script lang="ts">
	import { PLACES } from './places.ts';

	let { open = $bindable() }: { open: boolean } = $props();
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
		['?', 'this list']
	];
</script>

<dialog bind:this={dialog} class="modal" onclose={() => (open = false)} aria-label="Keys">
	<div class="modal-box border border-line bg-sheet shadow-none">
		<h2 class="text-xl font-semibold">Keys</h2>
		<table class="rows mt-3">
			<tbody>
				{#each KEYS as [key, what] (key)}<tr><td class="w-20"><kbd class="kbd kbd-sm">{key}</kbd></td><td>{what}</td></tr>{/each}
			</tbody>
		</table>
		<form method="dialog" class="mt-5 text-right"><button class="btn border-ink bg-transparent">Close</button></form>
	</div>
	<form method="dialog" class="modal-backdrop"><button aria-label="Close">close</button></form>
</dialog>
