<script lang="ts">
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from '$lib/ui/can.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import SelectField from '$lib/ui/SelectField.svelte';

	interface Props {
		partNumber: string;
		/** As it stands; null: nobody has said it. */
		quadrant: number | null;
	}
	let { partNumber, quadrant }: Props = $props();
	const { form, enhance } = entry({
		id: 'orientation',
		schema: bodies.orientation,
		start: () => ({ partNumber, quadrant }),
		follows: true,
		method: 'PUT',
		path: '/api/v1/parts/orientation',
		done: ({ quadrant: said }) => (said === null ? `${partNumber}: not compared` : `${partNumber}: pin 1 in quadrant ${said}`)
	});
	const QUADRANTS = [
		[null, 'not compared'],
		[1, '1, upper left'],
		[2, '2, upper right'],
		[3, '3, lower left'],
		[4, '4, lower right']
	] as const;
</script>

<EntryForm {enhance} label="Pin 1 of {partNumber}" class="grid grid-cols-[1fr_auto] items-end gap-2">
	<SelectField label="Pin 1 in its tape, sprocket holes on top" bind:value={$form.quadrant} options={QUADRANTS} class="h-11" />
	<button class="btn min-h-11 border-ink bg-transparent" disabled={!can('package.set') || $form.quadrant === quadrant}>Keep it</button>
</EntryForm>
