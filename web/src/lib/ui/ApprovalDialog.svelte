<script lang="ts">
	import { badgeAndPin } from '$lib/api/bodies.ts';
	import { approvals } from './approvals.svelte.ts';
	import { entry } from './entry.svelte.ts';
	import EntryForm from './EntryForm.svelte';
	import TextField from './TextField.svelte';

	let dialog: HTMLDialogElement | undefined = $state();
	$effect(() => {
		if (approvals.open && !dialog?.open) dialog?.showModal();
		if (!approvals.open && dialog?.open) dialog.close();
	});

	const { form, errors, enhance, reset } = entry({
		id: 'approval',
		schema: badgeAndPin,
		start: () => ({ badge: '', pin: '' }),
		async sends(given) {
			approvals.give(given);
			return {};
		}
	});
	/** Nothing typed stays behind. */
	function leave() {
		reset();
		approvals.give(null);
	}
</script>

<dialog
	bind:this={dialog}
	class="modal"
	aria-label="Approval"
	oncancel={(event) => {
		event.preventDefault();
		leave();
	}}
>
	{#if approvals.open}
		<EntryForm {enhance} label="Approval" class="modal-box flex w-[520px] flex-col gap-3 border border-line bg-sheet p-6 shadow-none">
			<h2 class="text-2xl font-bold">
				{approvals.open.second ? 'A second person approves this' : 'Badge and PIN'}
			</h2>
			<p class="text-soft">
				May approve: {approvals.open.roles.join(', ')}. Nobody is signed in or out by it{approvals.open.second
					? '; both names are kept'
					: ''}.
			</p>
			<div class="grid grid-cols-2 gap-3">
				<TextField label="Badge" bind:value={$form.badge} errors={$errors.badge} scan class="h-16 bg-paper text-xl" />
				<TextField
					label="PIN"
					type="password"
					bind:value={$form.pin}
					errors={$errors.pin}
					class="h-16 bg-paper text-xl"
					autocomplete="off"
				/>
			</div>
			<p class="min-h-6 text-stop" role="alert">{approvals.open.problem}</p>
			<div class="flex gap-3">
				<button class="btn min-h-16 flex-1 border-ink bg-transparent text-lg" type="button" onclick={leave}>Leave it</button>
				<button class="btn min-h-16 flex-[2] text-lg btn-primary">Approve</button>
			</div>
		</EntryForm>
	{/if}
</dialog>
