<script lang="ts">
	import { approvals } from './approvals.svelte.ts';

	let dialog: HTMLDialogElement | undefined = $state();
	let badge = $state('');
	let pin = $state('');
	let missing = $state('');
	$effect(() => {
		if (approvals.open && !dialog?.open) dialog?.showModal();
		if (!approvals.open && dialog?.open) dialog.close();
	});

	function give(event: SubmitEvent) {
		event.preventDefault();
		if (!badge.trim() || !pin) return void (missing = 'Scan or type the badge, and type the PIN.');
		missing = '';
		const given = { badge: badge.trim(), pin };
		[badge, pin] = ['', ''];
		approvals.give(given);
	}
</script>

<dialog
	bind:this={dialog}
	class="modal"
	aria-label="Approval"
	oncancel={(event) => {
		event.preventDefault();
		approvals.give(null);
	}}
>
	{#if approvals.open}
		<form
			class="modal-box flex w-[520px] flex-col gap-3 border border-line bg-sheet p-6 shadow-none"
			onsubmit={give}
			method="post"
			novalidate
			autocomplete="off"
		>
			<h2 class="text-2xl font-bold">
				{approvals.open.second ? 'A second person approves this' : 'Badge and PIN'}
			</h2>
			<p class="text-soft">
				May approve: {approvals.open.roles.join(', ')}. Nobody is signed in or out by it{approvals.open.second
					? '; both names are kept'
					: ''}.
			</p>
			<div class="grid grid-cols-2 gap-3">
				<label class="flex flex-col gap-1"
					><span class="text-soft">Badge</span><input
						class="input h-16 w-full border-line bg-paper text-xl"
						bind:value={badge}
						data-scan
					/></label
				>
				<label class="flex flex-col gap-1"
					><span class="text-soft">PIN</span><input
						class="input h-16 w-full border-line bg-paper text-xl"
						type="password"
						bind:value={pin}
						autocomplete="off"
					/></label
				>
			</div>
			<p class="min-h-6 text-stop" role="alert">{missing || approvals.open.problem}</p>
			<div class="flex gap-3">
				<button class="btn min-h-16 flex-1 border-ink bg-transparent text-lg" type="button" onclick={() => approvals.give(null)}
					>Leave it</button
				>
				<button class="btn min-h-16 flex-[2] text-lg btn-primary">Approve</button>
			</div>
		</form>
	{/if}
</dialog>
