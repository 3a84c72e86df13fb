<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import { send } from '$lib/ui/api.ts';

	let { data } = $props();
	let find = $state('');
	let name = $state<string | null>(null);
	let input = $state('');
	let output = $state('');
	let busy = $state(false);
	const words = $derived(find.trim().toLowerCase());
	const has = (...texts: string[]) => texts.some((text) => text.toLowerCase().includes(words));
	const calculations = $derived(data.calculations.filter((c) => has(c.name, c.summary)));
	const routes = $derived(data.routes.filter((route) => has(route.path, route.does, route.who)));
	const messages = $derived(data.messages.filter((message) => has(message.type, message.words, message.from)));

	type Calculation = (typeof data.calculations)[number];
	function choose(c: Calculation) {
		name = c.name;
		input = JSON.stringify(c.example, null, 1);
		output = '';
	}
	async function run() {
		let body: unknown;
		try {
			body = JSON.parse(input);
		} catch (error) {
			output = `The input is not JSON: ${(error as Error).message}`;
			return;
		}
		busy = true;
		const answer = await send<unknown>('POST', `/api/v1/calc/${name}`, body);
		busy = false;
		output = answer.ok
			? JSON.stringify(answer.data, null, 1)
			: [answer.message, ...answer.issues.map((issue) => `${issue.field}: ${issue.message}`)].join('\n');
	}
</script>

<div class="beside grid h-full gap-6 pt-3 [--beside:560px]">
	<section class="flex min-h-0 flex-col">
		<div class="flex items-center justify-between gap-4">
			<div class="text-soft">
				<h1 class="text-[26px] leading-8 font-bold text-ink">The API</h1>
				Everything a page computes can be called:
				<span class="figure">POST /api/v1/calc/&lt;name&gt;</span>.
				<a class="underline" href="/api/v1/openapi.json" target="_blank">openapi.json</a>
			</div>
			<input class="input h-11 w-60 shrink-0 border-line bg-sheet" bind:value={find} placeholder="find" aria-label="Find in the API" />
		</div>
		<div class="mt-2 grid min-h-0 flex-1 grid-rows-3 gap-3">
			{#snippet named(c: Calculation)}<button class="figure text-left underline" onclick={() => choose(c)}>{c.name}</button>{/snippet}
			<DataTable
				small
				name="calculations"
				label="Calculations"
				testid="calculations"
				rows={calculations}
				key={(c) => c.name}
				picked={(c) => c.name === name}
				columns={[
					{ id: 'calculation', title: 'Calculation', value: (c) => c.name, cell: named },
					{ id: 'does', title: 'What it does', value: (c) => c.summary }
				]}
				empty="No calculation has these words."
			/>
			<DataTable
				small
				name="routes"
				label="Routes"
				testid="routes"
				rows={routes}
				key={(route) => `${route.method} ${route.path}`}
				columns={[
					{ id: 'route', title: 'Route', value: (r) => `${r.method} ${r.path.replace('/api/v1', '')}`, class: 'figure text-xs' },
					{ id: 'does', title: 'What it does', value: (r) => r.does },
					{ id: 'who', title: 'Who', value: (r) => r.who, class: 'text-soft' },
					{
						id: 'example',
						title: 'Example',
						value: (r) => (r.example === undefined ? '' : JSON.stringify(r.example)),
						class: 'figure text-xs break-all',
						away: true
					}
				]}
				empty="No route has these words."
			/>
			<DataTable
				small
				name="message-kinds"
				label="Messages"
				testid="messages"
				rows={messages}
				key={(message) => message.type}
				columns={[
					{ id: 'message', title: 'Message', value: (m) => m.type, class: 'figure text-xs' },
					{ id: 'says', title: 'What it says', value: (m) => m.words },
					{ id: 'from', title: 'From', value: (m) => m.from, class: 'text-soft' }
				]}
				empty="No message has these words."
			/>
		</div>
	</section>
	<aside class="flex min-h-0 flex-col gap-2 border-l border-line pb-3 pl-5">
		{#if name}
			<h2 class="figure text-xl font-semibold">{name}</h2>
			<textarea class="figure textarea h-56 w-full shrink-0 border-line bg-sheet text-xs" bind:value={input} aria-label="Input, JSON"
			></textarea>
			<button class="btn min-h-12 btn-primary" disabled={busy} onclick={run}>{busy ? 'Computing…' : 'Compute'}</button>
			<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
			<pre
				class="figure min-h-0 flex-1 overflow-auto border border-line bg-sheet p-2 text-xs"
				data-testid="result"
				role="status"
				aria-label="Result"
				tabindex="0">{output || 'The example above works as it stands.'}</pre>
		{:else}
			<p class="m-auto border border-dashed border-(color:--none) p-6 text-soft">
				Choose a calculation: its example can be changed and computed here.
			</p>
		{/if}
	</aside>
</div>
