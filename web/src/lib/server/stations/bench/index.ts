import { inspected, visitStory } from '../inspected.ts';
import { stationModule } from '../module.ts';
import { VISIT_ROWS, visitOf, visitTaker } from '../visits.ts';

export const bench = stationModule({
	role: 'bench',
	messages: [visitOf('bench_inspection', 'an inspection at the bench')],
	taker: visitTaker,
	rows: [VISIT_ROWS],
	summary: inspected('bench'),
	story: visitStory('bench')
});
