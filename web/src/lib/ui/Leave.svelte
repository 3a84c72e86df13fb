<script lang="ts">
	import { act } from './api.ts';
	import { can } from './can.ts';

	interface Props {
		holdId: number;
		subject: string;
	}
	let { holdId, subject }: Props = $props();
	let asked = $state(false);
	let note = $state('');

	async function give(event: SubmitEvent) {
		event.preventDefault();
		if (await act('POST', `/api/v1/holds/${holdId}/lift`, { note }, `${subject} may go on`)) {
			asked = false;
			note = '';
		}
	}
</script>

<!-- An engineer lets a held thing go on, and says why. -->
{#if asked}
	<form class="flex items-end justify-end gap-2" onsubmit={give}>
		<!-- svelte-ignore a11y_autofocus -->
		<input
			class="input min-h-12 w-56 border-line bg-sheet"
			bind:value={note}
			aria-label="Why {subject} may go on"
			placeholder="why"
			autofocus
		/>
		<button class="btn min-h-12 btn-primary" disabled={note.trim().length < 3}>Goes on</button>
		<button type="button" class="btn min-h-12 border-line bg-transparent font-normal" onclick={() => (asked = false)}>No</button>
	</form>
{:else}
	<button
		class="btn min-h-12 border-ink bg-transparent whitespace-nowrap"
		disabled={!can('hold.lift')}
		title={can('hold.lift') ? '' : 'An engineer, quality or a lead gives leave.'}
		onclick={() => (asked = true)}>Give leave</button
	>
{/if}
