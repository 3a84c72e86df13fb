import { writeFileSync } from 'node:fs';
import { pageTimes } from './pages.ts';
import { fillYear } from './year.ts';

// One step of `npm run bench -- --year`: fills the year of a database (FILL), or times the pages of two servers, without and with it (PAGES names the file they are written to).
const say = (line: string) => console.log(`· ${line}`);

async function main(): Promise<void> {
	if (process.env.FILL) {
		const { panels, pads } = await fillYear(process.env.DATABASE_URL!, say);
		writeFileSync(process.env.FILL, JSON.stringify({ panels, pads }));
	}
	if (process.env.PAGES) writeFileSync(process.env.PAGES, JSON.stringify(await pageTimes(process.env.BASE_URL!, process.env.YEAR_URL!)));
}

await main();
