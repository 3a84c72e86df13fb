import { inspected, visitStory } from '../inspected.ts';
import { stationModule } from '../module.ts';
import { VISIT_ROWS, visitOf, visitTaker } from '../visits.ts';

/** First-pass goal to start from (our start value): what reaches a bench was inspected before. */
const GOAL = 0.98;

export const bench = stationModule({
	role: 'bench',
	messages: [visitOf('bench_inspection', 'an inspection at the bench')],
	taker: visitTaker,
	rows: [VISIT_ROWS],
	summary: inspected(GOAL),
	story: visitStory('bench')
});
