import { inspected, visitStory } from '../inspected.ts';
import { stationModule } from '../module.ts';
import { VISIT_ROWS, visitOf, visitTaker } from '../visits.ts';

export const optical = stationModule({
	role: 'optical',
	messages: [visitOf('optical_inspection', 'an optical inspection of a circuit')],
	taker: visitTaker,
	rows: [VISIT_ROWS],
	summary: inspected('optical'),
	story: visitStory('optical')
});
