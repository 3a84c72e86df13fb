<script lang="ts">
	import TriangleAlert from '@lucide/svelte/icons/triangle-alert';
	let { text }: { text: string } = $props();
</script>

<p class="mt-auto flex gap-2 border-t border-hair pt-2 text-xs text-soft">
	<TriangleAlert size={16} class="mt-0.5 shrink-0" />
	<span>{text} Local rules, the machine’s manual and trained staff come first.</span>
</p>
