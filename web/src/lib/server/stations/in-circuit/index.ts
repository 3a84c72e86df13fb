import { inspected, visitStory } from '../inspected.ts';
import { stationModule } from '../module.ts';
import { VISIT_ROWS, visitOf, visitTaker } from '../visits.ts';

export const inCircuit = stationModule({
	role: 'inCircuit',
	messages: [visitOf('in_circuit_test', 'an in-circuit test of a circuit')],
	taker: visitTaker,
	rows: [VISIT_ROWS],
	summary: inspected('inCircuit'),
	story: visitStory('inCircuit')
});
