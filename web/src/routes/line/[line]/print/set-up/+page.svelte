<script lang="ts">
	import X from '@lucide/svelte/icons/x';
	import { untrack } from 'svelte';
	import { combine, InputError, noData, type Verdict } from '@keen-relay/core/judgement';
	import { beadG } from '@keen-relay/core/paste';
	import {
		checkSupport,
		paceLevers,
		pasteGPerPanel,
		printTime,
		RECIPE_GUIDE,
		recipeRemarks,
		type PrintRecipe
	} from '@keen-relay/core/printing';
	import { bodies } from '$lib/api/bodies.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import Caution from '$lib/ui/Caution.svelte';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import { same } from '$lib/ui/same.ts';
	import SideChoice from '$lib/ui/SideChoice.svelte';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import { working } from '$lib/ui/working.svelte.ts';
	import { figure, fixed, quantity, say, titled, unitName } from '$lib/ui/theirs.svelte.ts';
	import NumberField from '$lib/ui/NumberField.svelte';

	let { data } = $props();
	const { form, enhance, draft, errors } = entry({
		id: 'print-recipe',
		schema: bodies.printRecipe,
		start: () => ({
			sideId: data.side?.id ?? 0,
			lineId: data.lineId,
			recipe: structuredClone(data.released?.recipe ?? data.start),
			support: structuredClone([...(data.released?.support ?? [])]),
			startedFrom: data.released?.revision ?? null
		}),
		follows: true,
		path: '/api/v1/print-recipes',
		done: () => 'Print recipe released',
		draft: {
			subject: untrack(() => `print-recipe.${data.lineId}.${data.side?.id ?? 0}`),
			base: () => (data.released ? `revision ${data.released.revision}` : 'no recipe')
		}
	});
	/** As they stand in the form, to be read. */
	const recipe = $derived(structuredClone($form.recipe) as PrintRecipe | null);
	const pins = $derived(structuredClone($form.support));
	const panel = $derived(data.panel && { acrossMm: data.panel.widthMm, alongMm: data.panel.heightMm });

	const judged: { time: ReturnType<typeof printTime> | null; support: ReturnType<typeof checkSupport> | null; verdict: Verdict } =
		$derived.by(() => {
			if (!recipe || !data.panel || !panel) return { time: null, support: null, verdict: noData('No board yet.') };
			try {
				const time = printTime(recipe, panel);
				const support = checkSupport(data.panel, pins, data.below);
				const remarks = recipeRemarks(recipe);
				const slow = data.taktS !== null && time.cycleS > data.taktS;
				const pace: Verdict = {
					level: slow ? 'watch' : 'good',
					statement: slow
						? `The printer sets the pace: ${fixed(time.cycleS, 1)} s against ${fixed(data.taktS!, 1)} s.`
						: `Prints every ${fixed(time.cycleS, 1)} s${data.taktS === null ? '' : `, within the line’s ${fixed(data.taktS, 1)} s`}.`,
					because: [
						{
							quantity: 'Print cycle',
							value: time.cycleS,
							unit: 's',
							limit: data.taktS === null ? null : `at most ${fixed(data.taktS, 1)} s`,
							source: 'the slowest other station',
							formula: `${recipe.handlingS} + ${recipe.fiducialsS} + ${recipe.strokes} · ${fixed(time.strokeS, 2)} + ${fixed(time.separationS, 2)} + ${fixed(time.wipeS, 2)}`
						}
					],
					doNext: []
				};
				const usual: Verdict = {
					level: remarks.length ? 'watch' : 'good',
					statement: remarks[0]?.message ?? '',
					because: [],
					doNext: remarks.map((r) => r.message)
				};
				return { time, support, verdict: combine([support.verdict, ...(remarks.length ? [usual] : []), pace]) };
			} catch (error) {
				if (error instanceof InputError)
					return { time: null, support: null, verdict: { level: 'act', statement: error.message, because: [], doNext: [] } };
				throw error;
			}
		});
	working.offer(() => judged.verdict);
	const levers = $derived(
		recipe && panel && judged.time && data.taktS !== null && judged.time.cycleS > data.taktS ? paceLevers(recipe, panel) : []
	);
	const use = $derived.by(() => {
		if (!recipe || !data.panel || !data.taken) return null;
		const { deliveredMm3, pasteGPerCm3 } = data.taken;
		return {
			gPerPanel: pasteGPerPanel(deliveredMm3, pasteGPerCm3, recipe.wipes),
			beadG: beadG(recipe.beadMm, data.panel.widthMm, pasteGPerCm3)
		};
	});
	const FIELDS = [
		['bladeMm', 'Blade, mm', 1],
		['beadMm', 'Bead, mm', 1],
		['forceKgPerCm', 'Force, kg/cm', 0.01],
		['speedMmPerS', 'Speed, mm/s', 1],
		['angleDeg', 'Angle, °', 1],
		['separationMmPerS', 'Separation, mm/s', 0.1],
		['separationMm', 'over, mm', 0.1],
		['gapMm', 'Print gap, mm', 0.1],
		['handlingS', 'Handling, s', 0.5],
		['fiducialsS', 'Fiducials, s', 0.5],
		['accelerationMmPerS2', 'Ramp, mm/s²', 10],
		['strokes', 'Strokes a print', 1]
	] as const;
	const changed = $derived(!same(recipe, data.released?.recipe ?? null) || !same(pins, data.released?.support ?? []));
	let box = $state({ width: 600, height: 400 });
	const scale = $derived(data.panel ? Math.min((box.width - 30) / data.panel.widthMm, (box.height - 30) / data.panel.heightMm) : 1);
	/** The panel stands in the middle of its room. */
	const left = $derived((box.width - (data.panel?.widthMm ?? 0) * scale) / 2);
	const at = $derived((x: number, y: number) => ({ x: left + x * scale, y: 15 + ((data.panel?.heightMm ?? 0) - y) * scale }));
	function place(event: MouseEvent & { currentTarget: SVGSVGElement }) {
		const r = event.currentTarget.getBoundingClientRect();
		const x = (event.clientX - r.left - left) / scale;
		const y = (data.panel?.heightMm ?? 0) - (event.clientY - r.top - 15) / scale;
		const near = pins.findIndex((p) => Math.hypot(p.x - x, p.y - y) < 5);
		if (near >= 0) $form.support = pins.toSpliced(near, 1);
		else if (data.panel && x >= 0 && y >= 0 && x <= data.panel.widthMm && y <= data.panel.heightMm) setPin(x, y);
	}
	/** A pin on the half millimetre. */
	const setPin = (x: number, y: number) => ($form.support = [...pins, { x: Math.round(x * 2) / 2, y: Math.round(y * 2) / 2, radiusMm: 2 }]);
	const PIN_STEPS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
	/** A pin is moved by the arrow keys, 0.5 mm a step, with Shift 5 mm, and taken away by Delete. */
	function movePin(event: KeyboardEvent, i: number) {
		const step = PIN_STEPS[event.key];
		const { widthMm, heightMm } = data.panel!;
		if (event.key === 'Delete' || event.key === 'Backspace') $form.support = pins.toSpliced(i, 1);
		else if (step) {
			const by = event.shiftKey ? 5 : 0.5;
			const pin = pins[i]!;
			const x = Math.min(widthMm, Math.max(0, pin.x + step[0] * by));
			const y = Math.min(heightMm, Math.max(0, pin.y + step[1] * by));
			$form.support = pins.with(i, { ...pin, x, y });
		} else return;
		event.preventDefault();
		event.stopPropagation();
	}
	function addPin() {
		const { widthMm, heightMm } = data.panel!;
		// Where the board is free widest, else in its middle.
		const { x, y } = judged.support?.widest.at ?? { x: widthMm / 2, y: heightMm / 2 };
		setPin(x, y);
	}
</script>

<StationFrame verdict={judged.verdict}>
	{#snippet about()}
		{#if data.released}Print recipe {data.released.revision} is released for this board on this line.{:else}No print recipe is released:
			these are values to start from.{/if}
		{#if judged.time}<span class="figure">{quantity(judged.time.forceN, 0, 'N')}</span> on the whole blade,
			<span class="figure">{quantity(judged.time.forceNPerCm, 2, 'N/cm')}</span> of it.{/if}
	{/snippet}
	{#snippet bar()}<SideChoice sides={data.sides} sideId={data.side?.id ?? null} />{/snippet}
	{#snippet picture()}
		{#if data.panel && recipe}
			<div class="h-full" bind:clientWidth={box.width} bind:clientHeight={box.height}>
				<!-- svelte-ignore a11y_click_events_have_key_events -->
				<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
				<svg
					width={box.width}
					height={box.height}
					onclick={place}
					role="group"
					aria-label="Panel with support pins, to scale; a click sets or takes away a pin, arrow keys move the one that is chosen"
					data-testid="support"
				>
					<rect
						x={at(0, data.panel.heightMm).x}
						y={at(0, data.panel.heightMm).y}
						width={data.panel.widthMm * scale}
						height={data.panel.heightMm * scale}
						fill="var(--sheet)"
						stroke="var(--ink)"
					/>
					{#each [0, data.panel.heightMm] as y (y)}<line
							x1={at(0, y).x}
							x2={at(data.panel.widthMm, y).x}
							y1={at(0, y).y}
							y2={at(0, y).y}
							stroke="var(--ink)"
							stroke-width="4"
						/>{/each}
					{#each data.below as part (part.name)}
						<rect
							x={at(part.box.minX, part.box.maxY).x}
							y={at(part.box.minX, part.box.maxY).y}
							width={(part.box.maxX - part.box.minX) * scale}
							height={(part.box.maxY - part.box.minY) * scale}
							fill="var(--hair)"
							stroke="var(--soft)"
							stroke-width="0.7"
						/>
					{/each}
					{#each data.panel.fiducials as f, i (i)}<circle
							cx={at(f.x, f.y).x}
							cy={at(f.x, f.y).y}
							r="4"
							fill="none"
							stroke="var(--ink)"
						/>{/each}
					{#if judged.support}
						<circle
							cx={at(judged.support.widest.at.x, judged.support.widest.at.y).x}
							cy={at(judged.support.widest.at.x, judged.support.widest.at.y).y}
							r={Math.max(3, judged.support.widest.mm * scale)}
							fill="none"
							stroke="var(--{judged.support.verdict.level === 'good' ? 'soft' : 'act'})"
							stroke-dasharray="5 4"
						/>
						<text
							x={at(judged.support.widest.at.x, 0).x}
							y={at(0, judged.support.widest.at.y).y}
							text-anchor="middle"
							font-size="13"
							fill="var(--ink)">{quantity(judged.support.widest.mm, 0, 'mm')} free</text
						>
					{/if}
					{#each pins as pin, i (i)}
						{@const bad = judged.support?.collisions.some((c) => c.pin === i)}
						<circle
							cx={at(pin.x, pin.y).x}
							cy={at(pin.x, pin.y).y}
							r={Math.max(5, pin.radiusMm * scale)}
							fill="var(--{bad ? 'act' : 'copper'})"
							tabindex="0"
							role="button"
							aria-label="Pin {i + 1} at {pin.x} and {pin.y} mm{bad ? ', under a part' : ''}; arrow keys move it, Delete takes it away"
							onkeydown={(event) => movePin(event, i)}
						/>
						<text x={at(pin.x, pin.y).x + 9} y={at(pin.x, pin.y).y - 7} font-size="12" fill="var(--ink)" class="figure">{i + 1}</text>
					{/each}
				</svg>
			</div>
		{:else}<p class="border border-dashed border-(color:--none) p-8 text-soft">No board yet.</p>{/if}
	{/snippet}
	{#snippet side()}
		{#if recipe}
			<EntryForm {enhance} {draft} label="Print recipe" class="flex flex-col gap-3">
				<div class="grid grid-cols-2 gap-x-3 gap-y-2">
					{#each FIELDS as [key, name, step] (key)}
						<label class="text-sm"
							><span class="text-soft">{titled(name)}</span><NumberField
								bare
								label={name}
								class="h-11 w-full text-lg"
								{step}
								bind:value={$form.recipe[key]}
								errors={$errors.recipe?.[key]}
								hint={key in RECIPE_GUIDE ? RECIPE_GUIDE[key as keyof typeof RECIPE_GUIDE].note : ''}
								min={-Infinity}
							/></label
						>
					{/each}
				</div>
				<label class="flex items-center justify-between gap-2 text-sm"
					><span class="text-soft">Force is given by the length of</span><select
						class="select h-11 w-32 border-line bg-sheet"
						bind:value={$form.recipe.forceBasis}><option value="blade">the blade</option><option value="panel">the panel</option></select
					></label
				>
				<div class="grid grid-cols-[minmax(0,1fr)_3.5rem_3.5rem_2.75rem] items-center gap-2 text-sm">
					<span class="text-soft">Wipe</span><span class="text-soft">prints</span><span class="text-soft">s</span><span></span>
					{#each recipe.wipes as _, i (i)}
						<select
							class="select h-11 w-full border-line bg-sheet"
							bind:value={$form.recipe.wipes[i]!.kind}
							aria-label="Kind of wipe {i + 1}"
							><option value="dry">dry</option><option value="wet">wet</option><option value="vacuum">vacuum</option><option
								value="wetVacuum">wet + vacuum</option
							></select
						>
						<NumberField
							bare
							label="Prints between wipes {i + 1}"
							whole
							class="h-11 w-full"
							min={1}
							bind:value={$form.recipe.wipes[i]!.everyPrints}
						/>
						<NumberField
							bare
							label="Seconds of wipe {i + 1}"
							unit="s"
							class="h-11 w-full"
							min={0}
							bind:value={$form.recipe.wipes[i]!.seconds}
						/>
						<button
							type="button"
							class="btn min-h-11 border-line bg-transparent px-0 font-normal"
							onclick={() => ($form.recipe.wipes = recipe.wipes.toSpliced(i, 1))}
							aria-label="Take away wipe {i + 1}"><X size={16} /></button
						>
					{/each}
				</div>
				<div class="flex items-center justify-between gap-2 text-sm">
					<label class="flex items-center gap-2"
						><input type="checkbox" class="checkbox" bind:checked={$form.recipe.longerReplaces} />the rarer wipe replaces the other</label
					>
					<button
						type="button"
						class="btn min-h-11 border-line bg-transparent font-normal"
						disabled={recipe.wipes.length >= 4}
						onclick={() => ($form.recipe.wipes = [...recipe.wipes, { kind: 'dry', everyPrints: 5, seconds: 10 }])}>Add a wipe</button
					>
				</div>
				{#if judged.time}
					<dl class="facts text-sm">
						<div>
							<dt>cycle, s</dt>
							<dd class="n">{fixed(judged.time.cycleS, 1)}</dd>
						</div>
						<div>
							<dt>of it wipes, s</dt>
							<dd class="n">{fixed(judged.time.wipeS, 1)}</dd>
						</div>
						{#if use}<div>
								<dt>{titled('paste a panel, g')}</dt>
								<dd class="n">{figure(use.gPerPanel, 2, 'g')}</dd>
							</div>
							<div>
								<dt>bead of {quantity(recipe.beadMm, 0, 'mm')}, {unitName('g')}</dt>
								<dd class="n">{figure(use.beadG, 0, 'g')}</dd>
							</div>
							{#if data.run}<div>
									<dt>{data.run.panels} panels and the bead, g</dt>
									<dd class="n">{figure(use.gPerPanel * data.run.panels + use.beadG, 0, 'g')}</dd>
								</div>{/if}{/if}
						{#each levers as l (l.what)}<div>
								<dt>{say(l.what)}: {say(l.risk)}</dt>
								<dd class="n">−{fixed(l.buysS, 1)} s</dd>
							</div>{/each}
					</dl>
				{/if}
				<button type="button" class="btn min-h-12 border-line bg-transparent font-normal" onclick={addPin}
					>Set a pin where the panel is free widest</button
				>
				<button class="btn min-h-16 text-lg btn-primary" disabled={!can('printRecipe.release') || !changed || !judged.time}
					>{changed ? 'Release this recipe' : `Recipe ${data.released?.revision} is released`}</button
				>
			</EntryForm>
		{/if}
		{#if data.run && data.firstPrints}
			<section data-testid="first-prints">
				<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">First prints of {data.run.number}</h2>
				<p class="flex items-center gap-2 py-1">
					<LevelMark level={data.firstPrints.verdict.level} />{say(data.firstPrints.verdict.statement)}
				</p>
				<button
					class="btn min-h-16 w-full border-ink bg-transparent text-lg"
					disabled={!can('firstPrint.release') || data.run.firstPrintAt !== null || data.firstPrints.verdict.level !== 'good'}
					onclick={() => act('POST', `/api/v1/runs/${data.run!.id}/first-print`, {}, 'The run is released')}
					>{data.run.firstPrintAt ? 'The run is released' : 'Release the run'}</button
				>
				{#if data.run.held && data.firstPrints.verdict.level !== 'good'}
					<button
						class="btn mt-2 min-h-12 w-full border-line bg-transparent"
						disabled={!can('firstPrint.release')}
						onclick={() => act('POST', `/api/v1/runs/${data.run!.id}/first-print/more`, {}, 'The printer prints one more')}
						>Print one more and inspect it</button
					>
				{/if}
				<p class="py-1 text-sm text-soft">
					{data.run.held
						? 'The printer waits until the run is released.'
						: data.run.firstPrintAt
							? ''
							: 'After these prints the printer waits for the release.'}
				</p>
			</section>
		{/if}
		<Caution
			text="Moving blades, gantry and conveyor: never defeat an interlock. Blades and foil edges cut. Pins are set with the printer stopped."
		/>
	{/snippet}
</StationFrame>
