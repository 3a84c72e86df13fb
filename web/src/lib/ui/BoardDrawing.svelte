<script lang="ts">
	import { BoardView, type DrawnPad, type DrawnPart } from './board-view.svelte.ts';
	import type { CircuitPlace } from '@keen-relay/core/artwork';
	import type { Point, Ring } from '@keen-relay/core/geometry';
	import { theme } from './theme.svelte.ts';

	interface Props {
		widthMm: number;
		heightMm: number;
		/** Places of the circuits; one at the origin for a single board. */
		origins?: readonly CircuitPlace[];
		under?: readonly Ring[];
		circuit?: { widthMm: number; heightMm: number };
		/** Openings of one circuit. */
		pads: readonly DrawnPad[];
		parts?: readonly DrawnPart[];
		fiducials?: readonly Point[];
		/** Colour token of a pad by its number (circuit by circuit), null leaves it faint. */
		colourOf: (pad: number) => string | null;
		selected?: number | null;
		/** A place to ring, mm. */
		ring?: Point | null;
		onpick?: (pad: number) => void;
		label: string;
	}
	let {
		widthMm,
		heightMm,
		origins = [{ x: 0, y: 0, rotationDeg: 0 }],
		under = [],
		circuit,
		pads,
		parts = [],
		fiducials = [],
		colourOf,
		selected = null,
		ring = null,
		onpick,
		label
	}: Props = $props();

	const view = new BoardView();
	let canvas: HTMLCanvasElement | undefined = $state();
	let box = $state({ width: 0, height: 0 });

	$effect(() => {
		void theme.now;
		if (!canvas || box.width === 0) return;
		view.draw(canvas, box, { widthMm, heightMm, origins, under, circuit, pads, parts, fiducials, colourOf, selected, ring });
	});
</script>

<div class="relative h-full w-full overflow-hidden" bind:clientWidth={box.width} bind:clientHeight={box.height}>
	<!-- svelte-ignore a11y_no_interactive_element_to_noninteractive_role -->
	<canvas
		bind:this={canvas}
		class="absolute inset-0 touch-none"
		aria-label={label}
		role="img"
		data-testid="board-drawing"
		onwheel={(event) => view.zoom(event)}
		onpointerdown={(event) => view.grab(event)}
		onpointermove={(event) => view.drag(event)}
		onpointerup={(event) => {
			const pad = view.release(event, { origins, pads });
			if (pad !== null) onpick?.(pad);
		}}
	></canvas>
	{#if view.moved}
		<button class="btn absolute top-1 right-1 border-line bg-sheet font-normal btn-sm" onclick={() => view.reset()}>Whole board</button>
	{/if}
</div>
