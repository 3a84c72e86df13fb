<script lang="ts">
	import { goto } from '$app/navigation';

	let { data } = $props();
	const first = $derived(
		data.station &&
			JSON.stringify({ source: data.station.source, bootId: data.bootId, number: 0, at: data.at, type: 'state', state: 'running' })
	);
	const reply = JSON.stringify({ received: 1, accepted: 1, duplicates: 0, quarantined: [] });
	const again = JSON.stringify({ received: 1, accepted: 0, duplicates: 1, quarantined: [] });
</script>

<div class="h-full overflow-y-auto pt-3 pb-4">
	<h1 class="text-[26px] leading-8 font-bold">The first message of a machine</h1>
	{#if !data.station}
		<p class="mt-2">
			No line has a station yet: a message says which station it is from.
			<a class="underline" href="/plant/set-up/lines">Enter a line first</a>.
		</p>
	{:else}
		<div class="beside grid gap-8 [--beside:380px]">
			<section>
				<p class="mt-1 flex items-center gap-3">
					<label class="flex items-center gap-2"
						>For <select
							class="select h-12 w-64 border-line bg-sheet"
							value={data.station.id}
							onchange={(e) => goto(`?station=${e.currentTarget.value}`)}
							aria-label="Station"
							>{#each data.stations as s (s.id)}<option value={s.id}>{s.source}</option>{/each}</select
						></label
					>
					<a class="underline" href="/plant/machines">Make its token</a>
				</p>
				<h2 class="mt-3 border-b border-hair pb-1 font-semibold text-soft">Send this, one line; the token in place of TOKEN</h2>
				<pre
					class="figure mt-2 border border-line bg-sheet p-3 text-sm break-all whitespace-pre-wrap"
					data-testid="first-command">curl {data.origin}/api/v1/messages \
  -H 'Authorization: Bearer TOKEN' \
  -H 'Content-Type: application/x-ndjson' \
  --data-binary '<span data-testid="first-message">{first}</span>'</pre>
				<h2 class="mt-3 border-b border-hair pb-1 font-semibold text-soft">The reply to it</h2>
				<pre class="figure mt-2 border border-line bg-sheet p-3 text-sm" data-testid="first-reply">{reply}</pre>
				<h2 class="mt-3 border-b border-hair pb-1 font-semibold text-soft">And to the very same line once more: it counts once</h2>
				<pre class="figure mt-2 border border-line bg-sheet p-3 text-sm" data-testid="again-reply">{again}</pre>
			</section>
			<aside class="border-l border-line pl-5 text-sm">
				<h2 class="border-b border-hair pb-1 font-semibold text-soft">What each part is</h2>
				<dl class="mt-1 grid gap-2">
					<div>
						<dt class="figure font-semibold">source</dt>
						<dd>
							Line and station, as they are entered here. A program that names itself otherwise is matched to its station on Messages and
							tokens.
						</dd>
					</div>
					<div>
						<dt class="figure font-semibold">bootId</dt>
						<dd>A UUID that the program makes at each of its starts.</dd>
					</div>
					<div>
						<dt class="figure font-semibold">number</dt>
						<dd>
							Counts its messages from that start on. The same again counts once; a number that comes with other contents is kept aside.
						</dd>
					</div>
					<div>
						<dt class="figure font-semibold">at</dt>
						<dd>When it happened, with its zone or Z; not more than two minutes ahead of the plant’s clock.</dd>
					</div>
					<div>
						<dt class="figure font-semibold">type</dt>
						<dd>
							{data.station.source} may say: {data.says.map((s) => `${s.type} (${s.words})`).join(', ')}. Each with its fields stands on
							<a class="underline" href="/plant/machines/api">API</a>.
						</dd>
					</div>
				</dl>
				<p class="mt-3">
					A status of 503 means that nothing was taken: keep the messages in their order and send them again. Anything that cannot be taken
					is answered with its line and reason, and waits under Messages and tokens.
				</p>
			</aside>
		</div>
	{/if}
</div>
