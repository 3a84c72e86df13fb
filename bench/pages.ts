import { pair } from './measure.ts';

/** Pages of a plant, as people open them; of each station its tabs. */
const PAGES = [
	'/line/1',
	'/line/1/hours',
	'/line/1/stops',
	'/line/1/wall',
	'/line/1/paste',
	'/line/1/paste/plan',
	'/line/1/paste/pastes',
	'/line/1/paste/air',
	'/line/1/print',
	'/line/1/print/set-up',
	'/line/1/print/alignment',
	'/line/1/print/stencil',
	'/line/1/print/stencil/library',
	'/line/1/print/openings',
	'/line/1/print/trial',
	'/line/1/paste-check',
	'/line/1/paste-check/causes',
	'/line/1/paste-check/causes/thresholds',
	'/line/1/paste-check/classes',
	'/line/1/paste-check/limits',
	'/line/1/paste-check/limits/consequences',
	'/line/1/paste-check/unit',
	'/line/1/paste-check/files',
	'/line/1/place/3',
	'/line/1/oven',
	'/line/1/optical',
	'/line/1/in-circuit',
	'/boards',
	'/boards/1',
	'/boards/packages',
	'/runs',
	'/panels',
	'/panels?find=J-2446',
	'/shift',
	'/shift/hand-over',
	'/shift/lost-time',
	'/plant',
	'/plant/machines',
	'/plant/people',
	'/plant/log'
] as const;

export interface PageTime {
	page: string;
	/** Medians of nine answers, ms: on the demo, and on the demo with a year stored beside it. */
	ms: number;
	yearMs: number;
}

/** A signed-in reader of pages' data. */
async function reader(base: string): Promise<(path: string) => Promise<string>> {
	const signedIn = await fetch(`${base}/api/auth/sign-in/username`, {
		method: 'POST',
		headers: { 'content-type': 'application/json', origin: base },
		body: JSON.stringify({ username: 'dessa', password: '200468' })
	});
	const cookie = signedIn.headers
		.getSetCookie()
		.map((c) => c.split(';')[0])
		.join('; ');
	return async (path) => {
		const [way, query] = path.split('?');
		const response = await fetch(`${base}${way}/__data.json${query ? `?${query}` : ''}`, { headers: { cookie } });
		const text = await response.text();
		if (!response.ok || text.startsWith('{"type":"error"')) throw new Error(`${path}: ${response.status} ${text.slice(0, 200)}`);
		return text;
	};
}

/** Server time of every page's data: what a page costs before it is drawn. Both servers answer in turn, so that both meet the same weather. */
export async function pageTimes(demo: string, year: string): Promise<PageTime[]> {
	const [openDemo, openYear] = [await reader(demo), await reader(year)];
	const times: PageTime[] = [];
	for (const page of PAGES) {
		const where = async (open: typeof openDemo) => /"type":"redirect","location":"([^"]+)"/.exec(await open(page))?.[1] ?? page;
		const [a, b] = [await where(openDemo), await where(openYear)];
		const { ms, referenceMs } = await pair(
			9,
			() => openYear(b),
			() => openDemo(a)
		);
		times.push({ page, ms: referenceMs, yearMs: ms });
	}
	return times;
}
