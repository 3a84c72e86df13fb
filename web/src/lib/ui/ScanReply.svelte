<script lang="ts">
	import { act } from './api.ts';
	import LevelMark from './LevelMark.svelte';
	import type { Found, ScanMove } from '$lib/model/types.ts';
	import NumberField from './NumberField.svelte';
	import { say, unitName } from './theirs.svelte.ts';

	interface Props {
		reply: Found | null;
		/** Where a move is made. */
		line: string | null;
		onclose: () => void;
	}
	let { reply, line, onclose }: Props = $props();
	/** As it was proposed, until somebody types another. */
	let typedG = $state<number | null>(null);
	const asked = $derived(reply?.moves.find((m) => m.grams !== null)?.grams ?? null);
	const grams = $derived(typedG ?? asked);
	$effect(() => {
		if (reply) typedG = null;
	});
	async function make({ name, path, body, grams: proposed }: ScanMove) {
		const done = await act('POST', path, proposed === null ? body : { ...body, grams }, `${reply!.what}: ${name.toLowerCase()}`);
		if (done) onclose();
	}
</script>

<svelte:window
	onkeydown={(event) => {
		if (event.key === 'Escape' && reply) onclose();
	}}
/>

{#if reply}
	<section
		class="fixed inset-x-0 top-[52px] z-30 border-b-4 bg-sheet px-6 py-6 {reply.ok ? 'border-good' : 'border-stop'}"
		role="alert"
		data-testid="scan-reply"
	>
		<p class="flex items-center gap-6 text-[84px] leading-[92px] font-bold">
			<LevelMark level={reply.ok ? 'good' : 'stopped'} size={68} />{say(reply.what)}
		</p>
		<div class="mt-2 flex items-center justify-between gap-4">
			<p class="text-3xl">
				{say(reply.why)}{#if reply.moves.length && line}<span class="text-soft">&nbsp;On {line}:</span>{/if}
			</p>
			<div class="flex shrink-0 items-center gap-3">
				{#if asked !== null}
					<label class="flex items-center gap-2 text-xl"
						><NumberField
							bare
							label="Grams"
							class="h-16 w-28 bg-paper text-xl"
							min={1}
							value={grams}
							unit="g"
							onvalue={(g) => (typedG = g ?? NaN)}
						/>{unitName('g')}</label
					>
				{/if}
				{#each reply.moves as m, i (m.name)}
					<button class="btn h-16 px-8 text-xl {i === 0 ? 'btn-primary' : 'border-ink bg-transparent'}" onclick={() => make(m)}
						>{m.name}</button
					>
				{/each}
				{#if reply.href}<a
						class="btn h-16 px-8 text-xl {reply.moves.length ? 'border-ink bg-transparent' : 'btn-primary'}"
						href={reply.href}
						onclick={onclose}>Its page</a
					>{/if}
				<button class="btn h-16 border-ink bg-transparent px-8 text-xl" onclick={onclose}>Close</button>
			</div>
		</div>
	</section>
{/if}
