<script lang="ts">
	import { bodies } from '$lib/api/bodies.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import { page } from '$app/state';
	import { can } from '$lib/ui/can.ts';
	import { plantTime } from '$lib/ui/clock.svelte.ts';
	import NumberField from '$lib/ui/NumberField.svelte';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const words = $derived(
		new Intl.DateTimeFormat('en-GB', { timeZone: zone, dateStyle: 'full', timeStyle: 'medium' }).format(new Date(plantTime.now))
	);
	const now = $derived(page.data.clock?.rate ?? 1);
	const { form, errors, enhance } = entry({
		id: 'clock',
		schema: bodies.clock.pick({ rate: true }),
		start: () => ({ rate: page.data.clock?.rate ?? 1 }),
		method: 'PUT',
		path: '/api/v1/clock',
		body: ({ rate }) => ({ now: new Date(plantTime.now).toISOString(), rate }),
		done: ({ rate }) => `The clock runs ${rate} times as fast`,
		stays: true
	});
</script>

<div class="grid h-full grid-cols-2 gap-10 pt-5">
	<section>
		<h1 class="text-[26px] leading-8 font-bold">The plant clock</h1>
		<p class="figure mt-3 text-[40px] leading-[46px] font-semibold" data-testid="clock">{words}</p>
		<p class="mt-1 text-soft">
			Time zone {zone}. It runs {now === 1 ? 'as real time does' : `${now} times as fast as real time`}. Pages, rules, machines and messages
			all go by it.
		</p>
		{#if page.data.plant?.demo}
			<EntryForm {enhance} label="Rate of the clock" class="mt-5 flex items-end gap-3">
				<NumberField
					label="Rate, 1 to 60"
					unit=""
					class="h-14 w-32 text-lg"
					min={1}
					max={60}
					bind:value={$form.rate}
					errors={$errors.rate}
				/>
				<button class="btn min-h-14 px-6 text-lg btn-primary" disabled={!can('clock.set')}>Set the rate</button>
			</EntryForm>
			<p class="mt-2 max-w-md text-soft">
				This is a demonstration plant: its clock stands still while the server is down, so that nothing expires over a weekend. A real plant
				runs at 1.
			</p>
		{:else}<p class="mt-3 text-soft">A real plant: its clock is real time.</p>{/if}
	</section>
	<section>
		<h2 class="text-[26px] leading-8 font-bold">The live stream</h2>
		<dl class="facts mt-3" data-testid="stream">
			<div>
				<dt>Streams open at this server process</dt>
				<dd class="n">{data.stream.open}</dd>
			</div>
			<div>
				<dt>At the most</dt>
				<dd class="n">{data.stream.streams}</dd>
			</div>
			<div>
				<dt>Events a second and topic, at the most</dt>
				<dd class="n">{data.stream.perSecondAndTopic}</dd>
			</div>
			<div>
				<dt>Events sent since the process started</dt>
				<dd class="n">{data.stream.sent}</dd>
			</div>
		</dl>
		<p class="mt-2 max-w-md text-soft">
			One stream serves all tabs of a browser and goes on from the last event after a break. Events name a topic only; pages ask for what
			they show.
		</p>
	</section>
</div>
