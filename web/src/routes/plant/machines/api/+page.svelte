<script lang="ts">
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

	function choose(c: (typeof data.calculations)[number]) {
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
		<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
		<div class="mt-2 min-h-0 flex-1 overflow-y-auto" role="group" aria-label="Calculations, routes and messages" tabindex="0">
			<table class="rows text-sm" data-testid="calculations">
				<thead><tr><th>Calculation</th><th>What it does</th></tr></thead>
				<tbody>
					{#each calculations as c (c.name)}
						<tr class={c.name === name ? 'font-semibold' : ''}>
							<td><button class="figure text-left underline" onclick={() => choose(c)}>{c.name}</button></td>
							<td>{c.summary}</td>
						</tr>
					{/each}
				</tbody>
			</table>
			<table class="rows mt-4 text-sm" data-testid="routes">
				<thead><tr><th>Route</th><th>What it does</th><th>Who</th></tr></thead>
				<tbody>
					{#each routes as route (`${route.method} ${route.path}`)}
						<tr title={route.example === undefined ? '' : JSON.stringify(route.example)}>
							<td class="figure text-xs">{route.method} {route.path.replace('/api/v1', '')}</td>
							<td>{route.does}</td>
							<td class="text-soft">{route.who}</td>
						</tr>
					{/each}
				</tbody>
			</table>
			<table class="rows mt-4 text-sm" data-testid="messages">
				<thead><tr><th>Message</th><th>What it says</th><th>From</th></tr></thead>
				<tbody>
					{#each messages as message (message.type)}
						<tr>
							<td class="figure text-xs">{message.type}</td>
							<td>{message.words}</td>
							<td class="text-soft">{message.from}</td>
						</tr>
					{/each}
				</tbody>
			</table>
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
