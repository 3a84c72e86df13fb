<script lang="ts">
	import {
		CategoryScale,
		Chart,
		type ChartConfiguration,
		Filler,
		LinearScale,
		LogarithmicScale,
		LineController,
		LineElement,
		PointElement,
		ScatterController
	} from 'chart.js';
	import annotation from 'chartjs-plugin-annotation';
	import { untrack } from 'svelte';
	import { theirs } from './theirs.svelte.ts';
	import { theme } from './theme.svelte.ts';

	Chart.register(
		LineController,
		ScatterController,
		LineElement,
		PointElement,
		LinearScale,
		LogarithmicScale,
		CategoryScale,
		Filler,
		annotation
	);

	interface Props {
		/** Built from the palette, so that both themes use the same ink and accent. */
		config: (ink: Palette) => ChartConfiguration<'line' | 'scatter'>;
		label: string;
		onpick?: (index: number) => void;
	}
	export type Palette = Record<'ink' | 'soft' | 'line' | 'hair' | 'copper' | 'good' | 'watch' | 'act' | 'paper', string>;
	let { config, label, onpick }: Props = $props();
	let canvas: HTMLCanvasElement | undefined = $state();
	let chart: Chart | undefined;

	function palette(): Palette {
		const style = getComputedStyle(document.documentElement);
		const names = ['ink', 'soft', 'line', 'hair', 'copper', 'good', 'watch', 'act', 'paper'] as const;
		return Object.fromEntries(names.map((name) => [name, style.getPropertyValue(`--${name}`).trim()])) as Palette;
	}

	$effect(() => {
		void theme.now;
		if (!canvas) return;
		const next = config(palette());
		// Figures along the axes are written as the one before the screen writes them.
		next.options = { ...next.options, locale: theirs().preferences.locale };
		untrack(() => {
			Chart.defaults.font.family = "'Atkinson Hyperlegible Mono', monospace";
			Chart.defaults.animation = false;
			if (chart) {
				chart.data = next.data as never;
				chart.options = next.options as never;
				chart.update();
			} else {
				chart = new Chart(canvas!, next as ChartConfiguration);
				canvas!.onclick = (event) => {
					const hit = chart!.getElementsAtEventForMode(event, 'nearest', { intersect: false }, true)[0];
					if (hit) onpick?.(hit.index);
				};
			}
		});
	});
	$effect(() => () => chart?.destroy());
</script>

<div class="relative h-full w-full">
	<!-- svelte-ignore a11y_no_interactive_element_to_noninteractive_role -->
	<canvas bind:this={canvas} aria-label={label} role="img"></canvas>
</div>
