<script lang="ts">
	interface Props {
		id: string;
		/** What is wrong, as the schema or the server says it; nothing where it is right. */
		words: readonly string[] | undefined;
	}
	let { id, words }: Props = $props();
	const sentence = $derived.by(() => {
		const first = words?.[0] ?? '';
		return first && `${first[0]!.toUpperCase()}${first.slice(1)}${/[.!?]$/.test(first) ? '' : '.'}`;
	});
</script>

{#if sentence}<span {id} class="block text-sm leading-5 font-semibold" role="alert">{sentence}</span>{/if}
