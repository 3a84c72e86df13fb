<script lang="ts">
	import { untrack } from 'svelte';
	import { bodies } from '$lib/api/bodies.ts';
	import { can } from '$lib/ui/can.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { clockTime } from '$lib/ui/format.ts';
	import NumberField from '$lib/ui/NumberField.svelte';

	interface Props {
		end: 'loader' | 'unloader';
		lineId: number;
		/** As it was said last; null: never. */
		magazine: { panels: number; moved: number; setMs: number } | null;
		zone: string;
	}
	let { end, lineId, magazine, zone }: Props = $props();
	const WORDS = {
		loader: { left: 'panels left', field: 'Panels in the loader', button: 'Filled', unknown: 'Nobody has said what the loader holds.' },
		unloader: {
			left: 'places left',
			field: 'Places in the unloader',
			button: 'Emptied',
			unknown: 'Nobody has said what the unloader takes.'
		}
	} as const;
	const words = $derived(WORDS[end]);
	const { form, errors, enhance } = entry({
		id: untrack(() => `magazine-${end}`),
		schema: bodies.magazine,
		start: (after) => ({ end: untrack(() => end), panels: after?.panels ?? magazine?.panels ?? null }),
		path: untrack(() => `/api/v1/lines/${lineId}/magazines`),
		done: ({ panels }) => (end === 'loader' ? `The loader holds ${panels} panels` : `The unloader has room for ${panels}`)
	});
</script>

<EntryForm {enhance} label={end === 'loader' ? 'Loader' : 'Unloader'} class="border-b border-hair py-2">
	<p class="text-sm" data-testid="left-{end}">
		{#if magazine}<strong class="figure">{Math.max(0, magazine.panels - magazine.moved)}</strong>
			{words.left} of {magazine.panels}
			<span class="text-soft">since {clockTime(magazine.setMs, zone)}</span>{:else}<span class="text-soft">{words.unknown}</span>{/if}
	</p>
	<div class="flex items-center gap-2 pt-1">
		<NumberField bare label={words.field} whole class="h-11 w-24" min={0} max={10000} errors={$errors.panels} bind:value={$form.panels} />
		<span class="flex-1 text-sm text-soft">panels</span>
		<button class="btn h-11 border-ink bg-transparent" disabled={!can('feeder.load')}>{words.button}</button>
	</div>
</EntryForm>
